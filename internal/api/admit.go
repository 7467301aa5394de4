package api

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/core/quantity"
)

// mostProblems is how many wrong fields an answer names; nobody reads more.
const mostProblems = 20

// admission holds a request against the document before anything decodes it:
// every bound there is enforced here, also within objects that may be null.
// Findings name their field by its path and never repeat the input.
type admission struct {
	registry huma.Registry
	problems []*huma.ErrorDetail
	// boundsOnly leaves to the calculators what they say better: what is missing,
	// below its least or no known word.
	boundsOnly bool
}

func (a *admission) fail(path, format string, args ...any) {
	if len(a.problems) < mostProblems {
		a.problems = append(a.problems, &huma.ErrorDetail{Location: path, Message: fmt.Sprintf(format, args...)})
	}
}

// full ends the search once nothing more would be said.
func (a *admission) full() bool { return len(a.problems) >= mostProblems }

// refusal is the answer to what was found, nil where nothing was.
func (a *admission) refusal() *huma.ErrorModel {
	if len(a.problems) == 0 {
		return nil
	}
	first := a.problems[0]
	return &huma.ErrorModel{Status: http.StatusUnprocessableEntity, Title: http.StatusText(http.StatusUnprocessableEntity),
		Detail: strings.TrimPrefix(first.Location+": "+first.Message, ": "), Errors: a.problems}
}

// value holds one value against its schema. Numbers are json.Number.
func (a *admission) value(path string, s *huma.Schema, v any) {
	if a.full() {
		return
	}
	nullable := s.Nullable
	for s.Ref != "" || len(s.AnyOf) > 0 {
		if len(s.AnyOf) > 0 { // something or null, which is all that the document has
			nullable, s = true, s.AnyOf[0]
			continue
		}
		s = a.registry.SchemaFromRef(s.Ref)
		nullable = nullable || s.Nullable
	}
	if v == nil {
		if !nullable && !a.boundsOnly && s.Type != "" {
			a.fail(path, "is null; %s", wanted(s))
		}
		return
	}
	switch s.Type {
	case huma.TypeNumber, huma.TypeInteger:
		a.number(path, s, v)
	case huma.TypeString:
		a.text(path, s, v)
	case huma.TypeBoolean:
		if _, ok := v.(bool); !ok {
			a.wrongType(path, s)
		}
	case huma.TypeArray:
		a.list(path, s, v)
	case huma.TypeObject:
		a.object(path, s, v)
	}
}

// wanted says what a field takes.
func wanted(s *huma.Schema) string {
	switch s.Type {
	case huma.TypeNumber:
		return "it must be a number"
	case huma.TypeInteger:
		return "it must be a whole number"
	case huma.TypeString:
		return "it must be text"
	case huma.TypeBoolean:
		return "it must be true or false"
	case huma.TypeArray:
		return "it must be a list"
	}
	return "it must be an object"
}

func (a *admission) wrongType(path string, s *huma.Schema) {
	if !a.boundsOnly {
		a.fail(path, "is of another kind; %s", wanted(s))
	}
}

func (a *admission) number(path string, s *huma.Schema, v any) {
	text, ok := v.(json.Number)
	if !ok {
		a.wrongType(path, s)
		return
	}
	n, err := strconv.ParseFloat(string(text), 64)
	if err != nil || math.IsInf(n, 0) || math.IsNaN(n) {
		a.fail(path, "is no finite number; enter one")
		return
	}
	if _, whole := text.Int64(); whole != nil && s.Type == huma.TypeInteger && math.Abs(n) <= *s.Maximum {
		if !a.boundsOnly {
			a.fail(path, "must be a whole number, written without a point or an exponent")
		}
		return
	}
	if s.Maximum != nil && n > *s.Maximum {
		a.fail(path, "is too large; it may be at most %s", plainNumber(*s.Maximum))
	}
	if s.Minimum != nil && n < *s.Minimum && (!a.boundsOnly || *s.Minimum < 0) {
		a.fail(path, "must be at least %s", plainNumber(*s.Minimum))
	}
	if a.boundsOnly {
		return
	}
	if s.ExclusiveMinimum != nil && n <= *s.ExclusiveMinimum {
		a.fail(path, "must be more than %s", plainNumber(*s.ExclusiveMinimum))
	} else if s.ExclusiveMinimum != nil && n < quantity.Smallest {
		a.fail(path, "is too close to 0 to mean anything; check its unit")
	}
	if len(s.Enum) > 0 && !slices.ContainsFunc(s.Enum, func(e any) bool { return fmt.Sprint(e) == string(text) }) {
		a.fail(path, "is none of %v", s.Enum)
	}
}

// plainNumber writes a bound without an exponent.
func plainNumber(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func (a *admission) text(path string, s *huma.Schema, v any) {
	text, ok := v.(string)
	if !ok {
		a.wrongType(path, s)
		return
	}
	if s.MaxLength != nil && utf8.RuneCountInString(text) > *s.MaxLength {
		a.fail(path, "is too long; it may have at most %d characters", *s.MaxLength)
		return
	}
	if a.boundsOnly {
		return
	}
	if s.MinLength != nil && utf8.RuneCountInString(text) < *s.MinLength {
		a.fail(path, "is missing; choose or enter it")
	}
	if len(s.Enum) > 0 && !slices.Contains(s.Enum, any(text)) {
		a.fail(path, "must be one of %s", words(s.Enum))
	}
	if s.ContentEncoding == "base64" {
		if _, err := base64.StdEncoding.DecodeString(text); err != nil {
			a.fail(path, "is no base64 text")
		}
	}
	if strings.ContainsRune(text, 0) {
		a.fail(path, "holds a character that no keyboard has (NUL); leave it out")
	}
}

func words(enum []any) string {
	out := make([]string, 0, len(enum))
	for _, e := range enum {
		if e != "" {
			out = append(out, fmt.Sprint(e))
		}
	}
	return strings.Join(out, ", ")
}

func (a *admission) list(path string, s *huma.Schema, v any) {
	list, ok := v.([]any)
	if !ok {
		a.wrongType(path, s)
		return
	}
	if s.MaxItems != nil && len(list) > *s.MaxItems {
		a.fail(path, "has %d entries; at most %d are taken at once", len(list), *s.MaxItems)
		return
	}
	if s.MinItems != nil && len(list) < *s.MinItems && !a.boundsOnly {
		a.fail(path, "has %d entries; at least %d are needed", len(list), *s.MinItems)
	}
	for i, item := range list {
		if a.full() {
			return
		}
		a.value(fmt.Sprintf("%s[%d]", path, i), s.Items, item)
	}
}

func (a *admission) object(path string, s *huma.Schema, v any) {
	object, ok := v.(map[string]any)
	if !ok {
		a.wrongType(path, s)
		return
	}
	each, free := s.AdditionalProperties.(*huma.Schema)
	names := make([]string, 0, len(object))
	for name := range object {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		property, known := s.Properties[name]
		switch {
		case known && object[name] == nil && !slices.Contains(s.Required, name): // left open
		case known:
			a.value(inside(path, name), property, object[name])
		case free:
			a.value(inside(path, name), each, object[name])
		case !a.boundsOnly:
			a.fail(path, "holds %.40q, which is not known here; leave it out", name)
		}
	}
	if a.boundsOnly {
		return
	}
	for _, name := range s.Required {
		if _, there := object[name]; !there && !s.Properties[name].ReadOnly {
			a.fail(inside(path, name), "is missing; choose or enter it")
		}
	}
}

func inside(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

// parameters holds what stands in the address against the document.
func (a *admission) parameters(op *huma.Operation, param func(string) string, query url.Values) {
	for _, p := range op.Parameters {
		var values []string
		switch p.In {
		case "path":
			values = []string{param(p.Name)}
		case "query":
			values = query[p.Name]
		default:
			continue
		}
		if len(values) == 0 || (len(values) == 1 && values[0] == "") {
			continue // what is needed is asked for when the request is decoded
		}
		switch p.Schema.Type {
		case huma.TypeArray:
			var list []any
			for _, value := range values {
				for _, one := range strings.Split(value, ",") {
					list = append(list, one)
				}
			}
			a.value(p.Name, p.Schema, list)
		case huma.TypeNumber, huma.TypeInteger:
			a.value(p.Name, p.Schema, json.Number(values[0]))
		case huma.TypeString:
			a.value(p.Name, p.Schema, values[0])
		}
	}
}

// body reads a JSON body and holds it against its schema. It gives the body as
// it was understood, so that what is decoded is what was checked: a name that
// stands twice, or in other letters, slips nothing past.
func (a *admission) body(s *huma.Schema, raw []byte) []byte {
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	var tree any
	if err := dec.Decode(&tree); err != nil {
		a.fail("body", "is not JSON that can be read; send one value")
		return nil
	}
	if _, err := dec.Token(); err != io.EOF {
		a.fail("body", "goes on after its JSON value; send one value")
		return nil
	}
	if tree == nil {
		a.fail("body", "is null; send a value")
		return nil
	}
	a.value("", s, tree)
	if len(a.problems) > 0 || a.boundsOnly {
		return raw
	}
	clean, err := json.Marshal(tree)
	if err != nil {
		a.fail("body", "is not JSON that can be read; send one value")
	}
	return clean
}
