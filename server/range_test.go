package server_test

import (
	"reflect"
	"strings"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/unit"
	"cinderpath/server"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// quantities walks a document's type beside its schema and hands out each number.
func quantities(
	t *testing.T,
	of reflect.Type,
	s *openapi3.Schema,
	owner reflect.Type,
	name, at string,
	each func(owner reflect.Type, name, at string, s *openapi3.Schema),
) {
	switch of.Kind() {
	case reflect.Pointer:
		quantities(t, of.Elem(), s, owner, name, at, each)
	case reflect.Slice, reflect.Array:
		require.NotNil(t, s.Items, at)
		quantities(t, of.Elem(), s.Items.Value, owner, name, at+"[]", each)
	case reflect.Map:
		quantities(t, of.Elem(), s.AdditionalProperties.Schema.Value, owner, name, at+"{}", each)
	case reflect.Struct:
		if of == reflect.TypeFor[time.Time]() {
			return
		}
		for i := range of.NumField() {
			f := of.Field(i)
			inner, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			switch {
			case inner == "-" || !f.IsExported() && !f.Anonymous:
			case f.Anonymous && inner == "":
				quantities(t, f.Type, s, of, "", at, each)
			default:
				property := s.Properties[inner]
				require.NotNil(t, property, "%s.%s is not in the contract", at, inner)
				quantities(t, f.Type, property.Value, of, inner, at+"."+inner, each)
			}
		}
	case reflect.Float64, reflect.Int, reflect.Int64, reflect.Uint64:
		each(owner, name, at, s)
	}
}

// The contract states the ranges of the one table that edits, import and the calculators
// hold to, for every number of every document; and the table knows nothing else.
func TestTheContractStatesTheRanges(t *testing.T) {
	contract, err := server.Contract()
	require.NoError(t, err)
	met := map[string]bool{}
	for schema, of := range map[string]reflect.Type{
		"Build": reflect.TypeFor[document.Build](), "Workshop": reflect.TypeFor[document.Workshop](),
		"Entry": reflect.TypeFor[document.Entry](),
	} {
		quantities(t, of, contract.Components.Schemas[schema].Value, of, "", schema,
			func(owner reflect.Type, name, at string, s *openapi3.Schema) {
				r, known := document.Ranges.Find(owner, name)
				if !assert.True(t, known, "%s (%s.%s) has no range", at, owner, name) {
					return
				}
				met[owner.String()+"."+name] = true
				if assert.NotNil(t, s.Min, at) && assert.NotNil(t, s.Max, at) {
					assert.InDelta(t, r.Least, *s.Min, 0, "%s, at least", at)
					assert.InDelta(t, r.Most, *s.Max, 0, "%s, at most", at)
				}
			})
	}
	for name := range document.Ranges.Ranges {
		assert.True(t, met[name] || strings.HasSuffix(name, "[]"), "%s stands in no document", name)
	}
}

// Every number that a request can send has a least and a most, whatever it asks.
func TestEveryNumberOfARequestIsBounded(t *testing.T) {
	contract, err := server.Contract()
	require.NoError(t, err)
	seen := map[*openapi3.Schema]bool{}
	numbers := 0
	var look func(s *openapi3.Schema, at string)
	look = func(s *openapi3.Schema, at string) {
		if s == nil || seen[s] {
			return
		}
		seen[s] = true
		if s.Type.Is("number") || s.Type.Is("integer") {
			numbers++
			assert.NotNil(t, s.Min, "%s has no least", at)
			assert.NotNil(t, s.Max, "%s has no most", at)
		}
		if s.Items != nil {
			look(s.Items.Value, at+"[]")
		}
		if more := s.AdditionalProperties.Schema; more != nil {
			look(more.Value, at+"{}")
		}
		for name, p := range s.Properties {
			look(p.Value, at+"."+name)
		}
	}
	for path, item := range contract.Paths.Map() {
		for method, o := range item.Operations() {
			for _, p := range append(o.Parameters, item.Parameters...) {
				look(p.Value.Schema.Value, path+"?"+p.Value.Name)
			}
			if o.RequestBody == nil {
				continue
			}
			for _, media := range o.RequestBody.Value.Content {
				look(media.Schema.Value, method+" "+path)
			}
		}
	}
	assert.Greater(t, numbers, 100)
}

// A value beyond its range is refused by field, with the range; one that the table forgot
// is refused too.
func TestTheTableTellsWhere(t *testing.T) {
	b := document.Build{Scale: 35}
	require.NoError(t, document.Sensible(b))
	b.Order.Own = []document.OwnStep{{}, {Minutes: 1e9}}
	assert.ErrorContains(t, document.Sensible(b), "order.own[1].minutes")
	type forgotten struct {
		X float64 `json:"x"`
	}
	assert.ErrorContains(t, unit.Table{List: 1, Text: 1}.Check(forgotten{}), "has no range")
}
