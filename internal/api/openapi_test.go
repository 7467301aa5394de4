package api

import (
	"bytes"
	"encoding/json"
	"flag"
	"os"
	"testing"
	"testing/fstest"

	"ojime/internal/work"
)

var update = flag.Bool("update", false, "write docs/openapi.json anew")

// The document is kept in the repository, since the front end's types are
// generated from it; this fails when the Go types have moved on.
func TestOpenAPIDocumentIsCurrent(t *testing.T) {
	const file = "../../docs/openapi.json"
	_, made := build(t.Context(), work.New(nil, nil, nil), fstest.MapFS{}, Place{})
	got, err := json.MarshalIndent(made.OpenAPI(), "", "  ")
	if err != nil {
		t.Fatal(err)
	}
	got = append(got, '\n')
	if *update {
		if err := os.WriteFile(file, got, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(got, want) {
		t.Errorf("docs/openapi.json is not what the Go types say; run make generate")
	}
}
