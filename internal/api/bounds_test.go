package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"ojime/internal/work"

	"github.com/danielgtaylor/huma/v2"
)

// slip is one way in which a request can be wrong at one field.
type slip struct {
	at    string // the field as an answer names it
	what  string
	value any
	steps []any // way to the field: keys and indices
}

// walker makes a request that the document allows, and every slip of it.
type walker struct {
	registry huma.Registry
	slips    []slip
	// calculator says that the request's shape is checked by wire.
	calculator bool
}

func (w *walker) resolve(s *huma.Schema) (*huma.Schema, bool) {
	nullable := s.Nullable
	for s.Ref != "" || len(s.AnyOf) > 0 {
		if len(s.AnyOf) > 0 {
			nullable, s = true, s.AnyOf[0]
			continue
		}
		s = w.registry.SchemaFromRef(s.Ref)
		nullable = nullable || s.Nullable
	}
	return s, nullable
}

func (w *walker) add(at string, steps []any, what string, value any) {
	w.slips = append(w.slips, slip{at, what, value, slices.Clone(steps)})
}

// sample is a value that the schema allows; on the way it notes the slips.
func (w *walker) sample(t *testing.T, at string, steps []any, schema *huma.Schema, required bool) any {
	s, nullable := w.resolve(schema)
	if !nullable && required && s.Type != "" {
		w.add(at, steps, "null", nil)
	}
	if s.Type != "" && at != "" {
		w.add(at, steps, "a wrong type", map[bool]any{true: "x", false: 7}[s.Type != huma.TypeString])
	}
	switch s.Type {
	case huma.TypeNumber, huma.TypeInteger:
		if s.Maximum == nil || (s.Minimum == nil && s.ExclusiveMinimum == nil) {
			t.Errorf("%s has no bound", at)
			return 1
		}
		w.add(at, steps, "maximum + 1", *s.Maximum+1)
		w.add(at, steps, "too large for any number", json.Number("9"+strings.Repeat("9", 400)))
		low := -1e300
		if s.Minimum != nil {
			low = *s.Minimum
			if !w.calculator || low < 0 {
				w.add(at, steps, "minimum - 1", low-1)
			}
		} else if !w.calculator {
			w.add(at, steps, "minimum", *s.ExclusiveMinimum)
		}
		return max(low, min(1, *s.Maximum))
	case huma.TypeString:
		if len(s.Enum) > 0 {
			if !w.calculator {
				w.add(at, steps, "no such word", "no such word")
			}
			return s.Enum[len(s.Enum)-1]
		}
		if s.ContentEncoding == "base64" {
			return ""
		}
		if s.MaxLength == nil {
			t.Errorf("%s has no length", at)
			return "x"
		}
		w.add(at, steps, "one character too many", strings.Repeat("é", *s.MaxLength+1))
		return "x"
	case huma.TypeBoolean:
		return true
	case huma.TypeArray:
		if s.MaxItems == nil {
			t.Errorf("%s has no most entries", at)
			return nil
		}
		item := w.sample(t, at+"[0]", append(steps, 0), s.Items, true)
		w.add(at, steps, "one entry too many", make([]any, *s.MaxItems+1)) // the number of entries is checked before the entries
		return []any{item}
	case huma.TypeObject:
		object := map[string]any{}
		for name, property := range s.Properties {
			object[name] = w.sample(t, inside(at, name), append(steps, name), property, slices.Contains(s.Required, name))
		}
		return object
	}
	return nil // of any type: not known
}

// with is a copy of tree that has value at the end of steps.
func with(tree any, steps []any, value any) any {
	if len(steps) == 0 {
		return value
	}
	switch step := steps[0].(type) {
	case string:
		out := map[string]any{}
		for k, v := range tree.(map[string]any) {
			out[k] = v
		}
		out[step] = with(out[step], steps[1:], value)
		return out
	case int:
		out := slices.Clone(tree.([]any))
		out[step] = with(out[step], steps[1:], value)
		return out
	}
	panic("no such step")
}

// Each field of each request of the document is tried beyond its bounds: every
// time the request is refused, the field named, nothing kept, and the answer small.
func TestEveryBoundOfTheDocumentIsHeld(t *testing.T) {
	b := serveEmpty(t)
	_, doc := build(t.Context(), work.New(nil, nil, nil), nil, Place{})
	_, before := b.call(http.MethodGet, "/api/v1/record", "")
	tried := 0
	for path, item := range doc.OpenAPI().Paths {
		for method, op := range map[string]*huma.Operation{http.MethodGet: item.Get, http.MethodPost: item.Post, http.MethodPut: item.Put, http.MethodPatch: item.Patch} {
			if op == nil {
				continue
			}
			tried += b.tryParameters(method, path, op, doc.OpenAPI().Components.Schemas)
			if schema := bodySchema(op); schema != nil {
				tried += b.tryBody(method, path, op, schema, doc.OpenAPI().Components.Schemas)
			}
		}
	}
	if tried < 3000 {
		t.Errorf("only %d slips were tried", tried)
	}
	if _, after := b.call(http.MethodGet, "/api/v1/record", ""); !reflect.DeepEqual(before, after) {
		t.Errorf("something of what was refused was kept: %v", after)
	}
}

func (b client) tryBody(method, path string, op *huma.Operation, schema *huma.Schema, registry huma.Registry) int {
	w := walker{registry: registry, calculator: op.SkipValidateBody}
	valid := w.sample(b.t, "", nil, schema, true)
	where := filled(path, op, nil)
	for _, s := range w.slips {
		body, err := json.Marshal(with(valid, s.steps, s.value))
		if err != nil {
			b.t.Fatal(err)
		}
		if w.calculator && s.at == "" {
			continue // not an object at all: wire's own test
		}
		b.refused(method, where, s, body)
	}
	return len(w.slips)
}

func (b client) tryParameters(method, path string, op *huma.Operation, registry huma.Registry) int {
	tried := 0
	for _, p := range op.Parameters {
		if p.In != "query" && p.In != "path" {
			continue
		}
		w := walker{registry: registry}
		w.sample(b.t, p.Name, nil, p.Schema, true)
		for _, s := range w.slips {
			text, ok := "", true
			switch v := s.value.(type) {
			case float64:
				text = strconv.FormatFloat(v, 'f', -1, 64)
			case json.Number:
				text = string(v)
			case string:
				text = v
			case []any:
				text = strings.Repeat("x,", len(v)-1) + "x"
			default:
				ok = false
			}
			if !ok || (s.what == "a wrong type" && p.Schema.Type == huma.TypeArray) {
				continue
			}
			tried++
			b.refused(method, filled(path, op, map[string]string{p.Name: text}), s, nil)
		}
		if p.Schema.Type == huma.TypeNumber {
			for _, word := range []string{"NaN", "Inf", "-infinity", "1e999"} {
				b.refused(method, filled(path, op, map[string]string{p.Name: word}), slip{at: p.Name, what: word}, nil)
			}
		}
	}
	return tried
}

// filled is the address of an operation with its parameters, those not given as
// the document allows them.
func filled(path string, op *huma.Operation, given map[string]string) string {
	query := url.Values{}
	for _, p := range op.Parameters {
		text, ok := given[p.Name]
		switch {
		case !ok && p.In == "path":
			text = "1"
		case !ok:
			continue
		}
		if p.In == "path" {
			path = strings.ReplaceAll(path, "{"+p.Name+"}", url.PathEscape(text))
		} else {
			query.Set(p.Name, text)
		}
	}
	return path + "?" + query.Encode()
}

func (b client) refused(method, where string, s slip, body []byte) {
	b.t.Helper()
	req, err := http.NewRequest(method, b.URL+where, bytes.NewReader(body))
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/json")
	status, answer := b.do(req)
	label := fmt.Sprintf("%s %.60s, %s at %q", method, where, s.what, s.at)
	if len(body) > bodyBytes {
		if status != http.StatusRequestEntityTooLarge && status != http.StatusUnprocessableEntity {
			b.t.Errorf("%s: %d, want it refused as too large", label, status)
		}
		return
	}
	if status != http.StatusUnprocessableEntity {
		b.t.Errorf("%s: status %d %.200v", label, status, answer)
		return
	}
	named := false
	list, _ := answer["errors"].([]any)
	for _, e := range list {
		named = named || e.(map[string]any)["location"] == s.at
	}
	if !named && s.at != "" {
		b.t.Errorf("%s: the answer names %.300v", label, list)
	}
	if text, err := json.Marshal(answer); err != nil || len(text) > 10*(len(body)+len(where))+1000 {
		b.t.Errorf("%s: an answer of %d bytes (%v)", label, len(text), err)
	}
}
