package stack

import (
	"bytes"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"ojime/internal/core/quantity"
)

// mostPairs bounds how many named values are taken from the texts of a container.
const mostPairs = 400

// Pair is a value of settings by the name that it has in the container.
type Pair struct {
	Name  string `json:"name"`
	Value string `json:"value"`
	From  string `json:"from"`
}

// Found is a value of settings that was understood: the field of settings that it means, its value
// in that field's unit, and the name and text that it was read from. Guessed says what was taken
// for granted where the text says no unit.
type Found struct {
	Field   string  `json:"field"`
	Value   float64 `json:"value"`
	Name    string  `json:"name"`
	Text    string  `json:"text"`
	Guessed string  `json:"guessed"`
}

// Pairs takes lines of a name and a value with a colon, an equals sign or a tab between; lines of
// another form, and headings, are passed over.
func Pairs(t Text) []Pair {
	out := []Pair{}
	for line := range bytes.Lines(t.Body) {
		line := strings.TrimSpace(strings.TrimPrefix(string(line), "\ufeff"))
		at := strings.IndexAny(line, ":=\t")
		if at <= 0 || strings.ContainsRune(";#[/", rune(line[0])) || len(out) == mostPairs {
			continue
		}
		name, value := strings.TrimSpace(line[:at]), strings.Trim(line[at+1:], "\" ,;\t")
		if name = strings.Trim(name, `"' `); name != "" && len(name) <= 120 && len(value) <= 400 {
			out = append(out, Pair{name, value, t.Name})
		}
	}
	return out
}

// meaning is what a name must and must not say to mean a field.
type meaning struct {
	field string
	all   [][]string // of each group, one word
	none  []string
	unit  string
}

var first = []string{"bottom", "base", "first", "initial", "burn"}

// meanings are in order: the first that fits is taken.
var meanings = []meaning{
	{"bottom_exposure_s", [][]string{first, {"exposure", "cure", "time"}}, []string{"wait", "rest", "delay", "lift", "retract", "power", "intensity", "off"}, "s"},
	{"transition_layers", [][]string{{"transition", "transitional", "fade"}, {"layers", "layer", "count"}}, []string{"exposure", "time"}, ""},
	{"bottom_layers", [][]string{first, {"layers", "count", "number"}}, []string{"exposure", "time", "height", "thickness", "lift"}, ""},
	{"layer_um", [][]string{{"layer", "slice"}, {"height", "thickness", "um"}}, append([]string{"lift", "total", "model"}, first...), "um"},
	{"wait_before_s", [][]string{{"wait", "rest", "delay"}, {"before"}}, append([]string{"lift"}, first...), "s"},
	{"wait_lift_s", [][]string{{"wait", "rest", "delay"}, {"after"}, {"lift"}}, first, "s"},
	{"wait_after_s", [][]string{{"wait", "rest", "delay"}, {"after"}}, append([]string{"retract", "lift"}, first...), "s"},
	{"light_power_pct", [][]string{{"light", "lamp", "led", "uv"}, {"power", "intensity", "pct", "percent"}}, first, "%"},
	{"exposure_s", [][]string{{"exposure", "cure"}}, append([]string{"wait", "rest", "delay", "off", "power", "transition", "compensation"}, first...), "s"},
	{"layers", [][]string{{"layers", "layer"}, {"count", "total", "number", "layers"}}, append([]string{"height", "exposure", "time"}, first...), ""},
}

// words are the words of a name: split at what is no letter or digit, and where small letters
// become large ones.
func words(name string) []string {
	var spaced strings.Builder
	small := false
	for _, r := range name {
		switch {
		case r == 'µ' || r == 'μ':
			r = 'u'
			if small {
				spaced.WriteByte(' ')
			}
		case r == '%':
			spaced.WriteString(" pct ")
			continue
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			r = ' '
		case unicode.IsUpper(r) && small:
			spaced.WriteByte(' ')
		}
		small = unicode.IsLower(r)
		spaced.WriteRune(unicode.ToLower(r))
	}
	return strings.Fields(spaced.String())
}

func (m meaning) fits(said []string) bool {
	some := func(of []string) bool {
		return slices.ContainsFunc(of, func(word string) bool { return slices.Contains(said, word) })
	}
	return !some(m.none) && !slices.ContainsFunc(m.all, func(group []string) bool { return !some(group) })
}

// Understand finds which fields of settings the pairs mean, each once: a field that is said twice
// with different values is understood by neither, and comes back in twice.
func Understand(pairs []Pair) (found []Found, twice []string) {
	found, twice = []Found{}, []string{}
	for _, p := range pairs {
		f, ok := understood(p)
		if !ok || slices.Contains(twice, f.Field) {
			continue
		}
		i := slices.IndexFunc(found, func(other Found) bool { return other.Field == f.Field })
		switch {
		case i < 0:
			found = append(found, f)
		case !quantity.Equal(found[i].Value, f.Value):
			found, twice = slices.Delete(found, i, i+1), append(twice, f.Field)
		}
	}
	return found, twice
}

func understood(p Pair) (Found, bool) {
	said := words(p.Name)
	for _, m := range meanings {
		if !m.fits(said) {
			continue
		}
		out := Found{Field: m.field, Name: p.Name, Text: p.Value}
		value, unit, ok := number(p.Value)
		if !ok {
			return out, false
		}
		if unit == "" {
			unit = unitOf(said)
		}
		out.Value, out.Guessed, ok = inUnit(value, unit, m.unit)
		return out, ok
	}
	return Found{}, false
}

// number is a value with the unit written behind it.
func number(text string) (value float64, unit string, ok bool) {
	text = strings.TrimSpace(text)
	end := strings.IndexFunc(text, func(r rune) bool { return !strings.ContainsRune("0123456789.,+-eE", r) })
	if end < 0 {
		end = len(text)
	}
	value, err := strconv.ParseFloat(strings.Replace(text[:end], ",", ".", 1), 64)
	if err != nil || math.IsInf(value, 0) || math.IsNaN(value) || value < 0 {
		return 0, "", false
	}
	return value, unitOf(words(text[end:])), true
}

// unitOf is the unit that words say, "" where they say none.
func unitOf(said []string) string {
	for _, w := range said {
		switch w {
		case "s", "sec", "secs", "second", "seconds":
			return "s"
		case "ms", "millisecond", "milliseconds":
			return "ms"
		case "mm", "um":
			return w
		case "micron", "microns", "micrometre", "micrometres":
			return "um"
		case "pct", "percent":
			return "%"
		}
	}
	return ""
}

// wholeMM is the layer height in mm from which a number without a unit is taken for micrometres.
const wholeMM = 1

// inUnit brings a value into the unit of its field. A length without a unit is told by its size, a
// time without one is seconds, and a share without one is left alone: it may be of 100 or of 255.
func inUnit(value float64, unit, want string) (out float64, guessed string, ok bool) {
	switch {
	case want == "":
		return value, "", unit == "" && value == math.Trunc(value)
	case want == unit:
		return value, "", true
	case want == "s" && unit == "ms":
		return value / 1000, "", true
	case want == "um" && unit == "mm":
		return value * 1000, "", true
	case want == "s" && unit == "":
		return value, "taken for seconds", true
	case want == "um" && unit == "" && value < wholeMM:
		return value * 1000, "taken for mm", value > 0
	case want == "um" && unit == "":
		return value, "taken for µm", true
	}
	return 0, "", false
}
