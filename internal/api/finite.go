package api

import (
	"fmt"
	"math"
	"reflect"
)

// finite copies an answer without the numbers that JSON cannot write, and names
// where they stood: an old record can hold such, and one bad entry must not hide
// the others. What may be unknown becomes so, anything else 0.
func finite(v any) (clean any, left []string) {
	if v == nil {
		return nil, nil
	}
	out := finiteCopy("", reflect.ValueOf(v), &left)
	return out.Interface(), left
}

func finiteCopy(path string, v reflect.Value, left *[]string) reflect.Value {
	switch v.Kind() {
	case reflect.Float64:
		if f := v.Float(); math.IsNaN(f) || math.IsInf(f, 0) {
			*left = append(*left, path)
			return reflect.Zero(v.Type())
		}
	case reflect.Pointer:
		if v.IsNil() {
			return v
		}
		before := len(*left)
		inner := finiteCopy(path, v.Elem(), left)
		if v.Elem().Kind() == reflect.Float64 && len(*left) > before {
			return reflect.Zero(v.Type())
		}
		out := reflect.New(v.Type().Elem())
		out.Elem().Set(inner)
		return out
	case reflect.Interface:
		if v.IsNil() {
			return v
		}
		out := reflect.New(v.Type()).Elem()
		out.Set(finiteCopy(path, v.Elem(), left))
		return out
	case reflect.Slice:
		if v.IsNil() || v.Type().Elem().Kind() == reflect.Uint8 {
			return v
		}
		out := reflect.MakeSlice(v.Type(), v.Len(), v.Len())
		for i := range v.Len() {
			out.Index(i).Set(finiteCopy(fmt.Sprintf("%s[%d]", path, i), v.Index(i), left))
		}
		return out
	case reflect.Array:
		out := reflect.New(v.Type()).Elem()
		for i := range v.Len() {
			out.Index(i).Set(finiteCopy(fmt.Sprintf("%s[%d]", path, i), v.Index(i), left))
		}
		return out
	case reflect.Struct:
		out := reflect.New(v.Type()).Elem()
		out.Set(v)
		for i := range v.NumField() {
			if f := v.Type().Field(i); f.IsExported() {
				out.Field(i).Set(finiteCopy(inside(path, f.Name), v.Field(i), left))
			}
		}
		return out
	case reflect.Map:
		if v.IsNil() {
			return v
		}
		out := reflect.MakeMapWithSize(v.Type(), v.Len())
		for _, key := range v.MapKeys() {
			out.SetMapIndex(key, finiteCopy(inside(path, fmt.Sprint(key)), v.MapIndex(key), left))
		}
		return out
	}
	return v
}
