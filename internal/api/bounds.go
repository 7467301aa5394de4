package api

import (
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/core/quantity"
)

// bound gives every number, text and list of every request a bound in the
// document, and with it in what is admitted: its own where its Go type states
// one, else the one that its name's unit has.
func bound(a huma.API) {
	b := binder{registry: a.OpenAPI().Components.Schemas, done: map[string]bool{}}
	for _, op := range operations(a.OpenAPI()) {
		for _, p := range op.Parameters {
			b.bind(p.Name, p.Schema)
		}
		if op.RequestBody == nil {
			continue
		}
		for _, media := range op.RequestBody.Content {
			b.bind("body", media.Schema)
		}
	}
}

// operations are all of the document, by their paths' items.
func operations(doc *huma.OpenAPI) []*huma.Operation {
	var out []*huma.Operation
	for _, item := range doc.Paths {
		for _, op := range []*huma.Operation{item.Get, item.Post, item.Put, item.Patch, item.Delete} {
			if op != nil {
				out = append(out, op)
			}
		}
	}
	return out
}

type binder struct {
	registry huma.Registry
	done     map[string]bool
}

func (b *binder) bind(name string, s *huma.Schema) {
	if s == nil || b.done[s.Ref] {
		return
	}
	if s.Ref != "" {
		b.done[s.Ref] = true
		b.bind(name, b.registry.SchemaFromRef(s.Ref))
		return
	}
	for _, either := range s.AnyOf {
		b.bind(name, either)
	}
	switch s.Type {
	case huma.TypeNumber, huma.TypeInteger:
		bindNumber(name, s)
	case huma.TypeString:
		if s.MaxLength == nil && len(s.Enum) == 0 && s.Format != "binary" && s.ContentEncoding == "" {
			s.MaxLength = quantity.Ptr(quantity.LengthOf(name))
		}
	case huma.TypeArray:
		if s.MaxItems == nil {
			s.MaxItems = quantity.Ptr(quantity.LongList)
		}
		b.bind(name, s.Items)
	case huma.TypeObject:
		for property, inner := range s.Properties {
			b.bind(property, inner)
		}
		if each, ok := s.AdditionalProperties.(*huma.Schema); ok {
			b.bind(name, each)
		}
	}
	s.PrecomputeMessages()
}

func bindNumber(name string, s *huma.Schema) {
	widest := quantity.RangeOf(name)
	if s.Minimum == nil && s.ExclusiveMinimum == nil {
		s.Minimum = &widest.Low
	}
	if s.Maximum == nil {
		s.Maximum = &widest.High
	}
}

// bodySchema is the schema of a request's JSON body, nil where it has none.
func bodySchema(op *huma.Operation) *huma.Schema {
	if op.RequestBody == nil || op.Metadata[streamed] == true {
		return nil
	}
	media := op.RequestBody.Content["application/json"]
	if media == nil || isRaw(media.Schema) {
		return nil
	}
	return media.Schema
}

// isRaw is a body that its task reads itself.
func isRaw(s *huma.Schema) bool {
	return s == nil || s.Format == "binary" || reflect.DeepEqual(s, &huma.Schema{})
}
