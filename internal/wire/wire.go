// Package wire decodes JSON into input structs and names what does not fit by
// its path, such as points[2].dose, which encoding/json cannot. A field
// without omitempty is required; an optional field that is null counts as
// absent; unknown keys are ignored.
package wire

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"reflect"
	"strings"

	"ojime/internal/core/quantity"
)

// Decode fills the struct that into points to, or returns a
// *quantity.FieldError. A body that is no JSON object is an error of "body".
func Decode(body []byte, into any) error {
	dec := json.NewDecoder(bytes.NewReader(body))
	dec.UseNumber()
	var tree any
	if err := dec.Decode(&tree); err != nil {
		return quantity.Errorf("body", "is not JSON: %v", err)
	}
	if _, err := dec.Token(); err != io.EOF {
		return quantity.Errorf("body", "goes on after its JSON value; send one object")
	}
	if _, ok := tree.(map[string]any); !ok {
		return quantity.Errorf("body", "is not a JSON object; send one")
	}
	return fill("", tree, reflect.ValueOf(into).Elem())
}

// taker is a type that reads what JSON holds by itself.
type taker interface {
	Take(path string, from any) error
}

func fill(path string, from any, to reflect.Value) error {
	if to.CanAddr() {
		if own, ok := to.Addr().Interface().(taker); ok {
			return own.Take(path, plain(from))
		}
	}
	switch to.Kind() {
	case reflect.Pointer:
		if from == nil {
			return nil
		}
		to.Set(reflect.New(to.Type().Elem()))
		return fill(path, from, to.Elem())
	case reflect.Struct:
		return fillStruct(path, from, to)
	case reflect.Slice:
		list, ok := from.([]any)
		if !ok {
			return quantity.Errorf(path, "is %s; it must be a list", kindOf(from))
		}
		to.Set(reflect.MakeSlice(to.Type(), len(list), len(list)))
		for i, item := range list {
			if err := fill(fmt.Sprintf("%s[%d]", path, i), item, to.Index(i)); err != nil {
				return err
			}
		}
	case reflect.Interface:
		if from != nil {
			to.Set(reflect.ValueOf(plain(from)))
		}
	case reflect.String:
		text, ok := from.(string)
		if !ok {
			return quantity.Errorf(path, "is %s; it must be text", kindOf(from))
		}
		to.SetString(text)
	case reflect.Bool:
		truth, ok := from.(bool)
		if !ok {
			return quantity.Errorf(path, "is %s; it must be true or false", kindOf(from))
		}
		to.SetBool(truth)
	case reflect.Float64, reflect.Int64:
		return fillNumber(path, from, to)
	default:
		panic("wire: no rule for " + to.Type().String())
	}
	return nil
}

func fillStruct(path string, from any, to reflect.Value) error {
	object, ok := from.(map[string]any)
	if !ok {
		return quantity.Errorf(path, "is %s; it must be an object", kindOf(from))
	}
	for i := range to.NumField() {
		field := to.Type().Field(i)
		if field.Anonymous {
			if err := fillStruct(path, from, to.Field(i)); err != nil {
				return err
			}
			continue
		}
		name, options, _ := strings.Cut(field.Tag.Get("json"), ",")
		at := name
		if path != "" {
			at = path + "." + name
		}
		value, there := object[name]
		if !there || value == nil {
			if options != "omitempty" {
				return quantity.Errorf(at, "is missing; it is needed")
			}
			continue
		}
		if err := fill(at, value, to.Field(i)); err != nil {
			return err
		}
	}
	return nil
}

func fillNumber(path string, from any, to reflect.Value) error {
	number, ok := from.(json.Number)
	if !ok {
		return quantity.Errorf(path, "is %s; it must be a number", kindOf(from))
	}
	v, err := number.Float64()
	if err != nil {
		return quantity.Errorf(path, "is too large to compute with")
	}
	if to.Kind() == reflect.Float64 {
		to.SetFloat(v)
		return nil
	}
	if v != math.Trunc(v) {
		return quantity.Errorf(path, "is %.40s; it must be a whole number", number)
	}
	if math.Abs(v) > mostCount {
		return quantity.Errorf(path, "is %.40s, which is too large for a count", number)
	}
	to.SetInt(int64(v))
	return nil
}

// mostCount bounds whole numbers, so that products of two of them stay exact
// in 64 bits.
const mostCount = 1e9

func plain(v any) any {
	switch v := v.(type) {
	case json.Number:
		if f, err := v.Float64(); err == nil {
			return f
		}
		return v.String()
	case []any:
		out := make([]any, len(v))
		for i, one := range v {
			out[i] = plain(one)
		}
		return out
	}
	return v
}

func kindOf(v any) string {
	switch v.(type) {
	case nil:
		return "null"
	case string:
		return "text"
	case bool:
		return "true or false"
	case json.Number:
		return "a number"
	case []any:
		return "a list"
	}
	return "an object"
}
