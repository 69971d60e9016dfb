// Package api is generated from openapi.yaml by make generate. The documents of
// the core are used as they are: their schemas name the Go types.
package api
