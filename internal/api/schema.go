package api

import (
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// schemaName names a type in the document; types of the core carry their
// package, since several subjects have a Row or a Part.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if _, subject, isCore := strings.Cut(t.PkgPath(), "internal/core/"); isCore {
		return strings.ToUpper(subject[:1]) + subject[1:] + name
	}
	return name
}

// admitNull says in the document which objects and lists may be null, which
// Huma derives for plain values only: a field that is a pointer.
func admitNull(a huma.API) {
	registry := a.OpenAPI().Components.Schemas
	for name, schema := range registry.Map() {
		t := registry.TypeFromRef("#/components/schemas/" + name)
		for t != nil && t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		if t != nil && t.Kind() == reflect.Struct {
			admitNullFields(t, schema)
		}
	}
}

func admitNullFields(t reflect.Type, schema *huma.Schema) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous && f.Type.Kind() == reflect.Struct {
			admitNullFields(f.Type, schema)
			continue
		}
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		property := schema.Properties[name]
		if f.Type.Kind() != reflect.Pointer || property == nil || options == "omitempty" {
			continue
		}
		switch {
		case property.Ref != "":
			schema.Properties[name] = &huma.Schema{AnyOf: []*huma.Schema{{Ref: property.Ref}, {Type: "null"}}}
		case property.Type == huma.TypeArray:
			property.Nullable = true
		}
	}
}
