package bench

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Beyond names what of an entry lies outside the bounds that its fields state, or
// that the unit in their name has: numbers that are not finite, too large, or too
// near to 0 to mean anything, texts that are too long or missing, and words that are
// none of those known. Requests are held to
// the same bounds before they are decoded; this finds what older records and
// files from elsewhere hold.
func Beyond(entry any) []*quantity.FieldError {
	var out []*quantity.FieldError
	walk("", reflect.StructField{}, reflect.ValueOf(entry), &out)
	return out
}

func beyond(path, format string, args ...any) *quantity.FieldError {
	return &quantity.FieldError{Path: path, Message: fmt.Sprintf(format, args...)}
}

func walk(path string, field reflect.StructField, v reflect.Value, out *[]*quantity.FieldError) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			walk(path, field, v.Elem(), out)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			f := v.Type().Field(i)
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if !f.IsExported() || name == "-" {
				continue
			}
			at := name
			if f.Anonymous && name == "" {
				walk(path, f, v.Field(i), out)
				continue
			}
			if path != "" {
				at = path + "." + name
			}
			walk(at, f, v.Field(i), out)
		}
	case reflect.Slice:
		for i := range v.Len() {
			walk(fmt.Sprintf("%s[%d]", path, i), field, v.Index(i), out)
		}
	case reflect.String:
		if field.Tag.Get("minLength") == "1" && v.String() == "" {
			*out = append(*out, beyond(path, "is missing"))
		}
		if words := field.Tag.Get("enum"); words != "" && !slices.Contains(strings.Split(words, ","), v.String()) && !(v.String() == "" && field.Tag.Get("required") == "false") {
			*out = append(*out, beyond(path, "is %.40q; it must be one of %s", v.String(), strings.TrimPrefix(words, ",")))
		}
		if n := utf8.RuneCountInString(v.String()); n > longest(path, field) {
			*out = append(*out, beyond(path, "has %d characters; at most %d can be shown", n, longest(path, field)))
		}
	case reflect.Float64:
		number(path, field, v.Float(), out)
	case reflect.Int64:
		number(path, field, float64(v.Int()), out)
	}
}

// lastName is the name of a field at the end of its path.
func lastName(path string) string {
	path = path[strings.LastIndex(path, ".")+1:]
	name, _, _ := strings.Cut(path, "[")
	return name
}

func longest(path string, field reflect.StructField) int {
	if n, err := strconv.Atoi(field.Tag.Get("maxLength")); err == nil {
		return n
	}
	return quantity.LengthOf(lastName(path))
}

func number(path string, field reflect.StructField, v float64, out *[]*quantity.FieldError) {
	allowed := quantity.RangeOf(lastName(path))
	for tag, end := range map[string]*float64{"minimum": &allowed.Low, "exclusiveMinimum": &allowed.Low, "maximum": &allowed.High} {
		if stated, err := strconv.ParseFloat(field.Tag.Get(tag), 64); err == nil {
			*end = stated
		}
	}
	switch {
	case math.IsNaN(v) || math.IsInf(v, 0):
		*out = append(*out, beyond(path, "is not a finite number"))
	case field.Tag.Get("exclusiveMinimum") == "0" && v <= 0:
		*out = append(*out, beyond(path, "is %s; it must be more than 0", say.Figures(v, 6)))
	case v < allowed.Low || v > allowed.High:
		*out = append(*out, beyond(path, "is %s; it must lie from %s to %s", say.Figures(v, 6), say.Figures(allowed.Low, 6), say.Figures(allowed.High, 6)))
	case field.Tag.Get("exclusiveMinimum") == "0" && v < quantity.Smallest:
		*out = append(*out, beyond(path, "is %s, too near to 0 to mean anything", say.Figures(v, 6)))
	}
}
