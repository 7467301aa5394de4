package wire

import (
	"encoding/json"
	"errors"
	"testing"

	"ojime/internal/core/quantity"
)

type inner struct {
	Dose float64 `json:"dose"`
	N    int64   `json:"n"`
}

// Base is exported as the core's embedded structs are: others cannot be filled.
type Base struct {
	Name string `json:"name"`
}

type outer struct {
	Base
	Points []inner  `json:"points"`
	Limit  *float64 `json:"limit,omitempty"`
	Deep   *inner   `json:"deep,omitempty"`
	On     *bool    `json:"on,omitempty"`
	Given  any      `json:"given,omitempty"`
}

func TestWrongFieldsAreNamedByPath(t *testing.T) {
	const good = `"name":"a","points":[{"dose":1,"n":2}]`
	for _, c := range []struct{ name, body, path string }{
		{"no JSON", `{`, "body"},
		{"a list", `[1]`, "body"},
		{"two values", `{` + good + `} {}`, "body"},
		{"missing text", `{"points":[]}`, "name"},
		{"null where needed", `{"name":"a","points":null}`, "points"},
		{"text for a number", `{"name":"a","points":[{"dose":1,"n":2},{"dose":"x","n":2}]}`, "points[1].dose"},
		{"missing in a list", `{"name":"a","points":[{"dose":1}]}`, "points[0].n"},
		{"half a count", `{"name":"a","points":[{"dose":1,"n":2.5}]}`, "points[0].n"},
		{"a count too large", `{"name":"a","points":[{"dose":1,"n":1e12}]}`, "points[0].n"},
		{"beyond a float", `{"name":"a","points":[{"dose":1e999,"n":1}]}`, "points[0].dose"},
		{"an object for a list", `{"name":"a","points":{}}`, "points"},
		{"a number for an object", `{` + good + `,"deep":3}`, "deep"},
		{"inside an optional object", `{` + good + `,"deep":{"dose":1}}`, "deep.n"},
		{"text for a truth", `{` + good + `,"on":"yes"}`, "on"},
	} {
		t.Run(c.name, func(t *testing.T) {
			var wrong *quantity.FieldError
			if err := Decode([]byte(c.body), &outer{}); !errors.As(err, &wrong) || wrong.Path != c.path {
				t.Errorf("error %v, want one of %s", err, c.path)
			}
		})
	}
}

func TestNullAndUnknownKeysCountAsAbsent(t *testing.T) {
	var got outer
	body := `{"name":"a","points":[{"dose":1.5,"n":2.0}],"limit":null,"other":7,"given":"as it is"}`
	if err := Decode([]byte(body), &got); err != nil {
		t.Fatal(err)
	}
	if got.Name != "a" || got.Points[0].Dose != 1.5 || got.Points[0].N != 2 || got.Limit != nil || got.Given != "as it is" {
		t.Errorf("got %+v", got)
	}
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte(`{"name":"a","points":[{"dose":1,"n":2}],"limit":3,"deep":{"dose":1,"n":1},"given":[1]}`))
	f.Add([]byte(`{"name":1}`))
	f.Fuzz(func(t *testing.T, body []byte) {
		var got outer
		err := Decode(body, &got)
		if err == nil && !json.Valid(body) {
			t.Errorf("accepted what is no JSON: %q", body)
		}
	})
}
