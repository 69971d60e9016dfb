package server

import (
	"encoding/json"
	"errors"
	"fmt"

	"cinderpath/core/measure"

	"github.com/getkin/kin-openapi/openapi3"
)

// Question holds a question to one of the calculators against the contract, so that the
// command line refuses what the API refuses.
func Question(topic string, data []byte) error {
	contract, err := Contract()
	if err != nil {
		return err
	}
	path := contract.Paths.Find("/api/calc/" + topic)
	if path == nil || path.Post == nil || path.Post.RequestBody == nil {
		return fmt.Errorf("the contract has no calculator %q", topic)
	}
	var q any
	if err := json.Unmarshal(data, &q); err != nil {
		return fmt.Errorf("the question is not readable JSON: %w", err)
	}
	body := path.Post.RequestBody.Value.Content.Get("application/json")
	err = body.Schema.Value.VisitJSON(q, openapi3.VisitAsRequest())
	var schema *openapi3.SchemaError
	if errors.As(err, &schema) {
		fault := measure.Fault{
			Field:  written(schema.JSONPointer()),
			Reason: schema.Reason,
			Remedy: "see openapi.yaml for what belongs there",
		}
		if reason, remedy, out := beyond(schema); out {
			fault.Reason, fault.Remedy = reason, remedy
		}
		return &fault
	}
	return err
}
