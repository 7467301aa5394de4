package audit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/say"
)

// Shown is what a factor was on a side, in its words; "not known" where nothing is.
func Shown(factor string, c Conditions) string {
	for _, r := range rules {
		if r.factor == factor {
			return r.shown(r.values(c))
		}
	}
	return NotKnown
}

// NotKnown is said of what no print tells.
const NotKnown = "not known"

// shown are a side's values with their unit: one, a range of numbers, or the words.
func (r rule) shown(v Values) string {
	known := v.known()
	missing := ""
	if n := len(v) - len(known); n > 0 && len(known) > 0 {
		missing = fmt.Sprintf(" (not known of %s)", say.Counted(int64(n), "print"))
	}
	switch n := v.Numbers(); {
	case len(known) == 0:
		return NotKnown
	case known.alike():
		return r.show(known[0]) + missing
	case len(n) == len(known):
		return fmt.Sprintf("%s to %s%s", strings.TrimSuffix(r.show(slices.Min(n)), r.unit), r.show(slices.Max(n)), missing)
	}
	var words []string
	for _, one := range known {
		if w := r.show(one); !slices.Contains(words, w) {
			words = append(words, w)
		}
	}
	return say.List(words) + missing
}

func (r rule) show(v any) string {
	switch v := v.(type) {
	case float64:
		switch {
		case r.factor == printedMS:
			return say.Day(int64(v))
		case math.Abs(v) >= 1000:
			return say.Whole(v) + r.unit
		}
		return say.Figures(v, 4) + r.unit
	case bool:
		if v {
			return "yes"
		}
		return "no"
	}
	return fmt.Sprint(v)
}

// sentence says what a row means to a reviewer, in words that depend on the
// question asked.
func (r rule) sentence(f facts, in CompareInput, nameA, nameB string) string {
	pair := f.pair
	switch {
	case r.factor == prints:
		return printsSentence(f, pair)
	case f.neither:
		return fmt.Sprintf("%s: %s; %s in both, so neither side is in order.", r.label, pair, r.flagLabel)
	case f.flagged && !f.underTest:
		side := nameB
		if f.flaggedA {
			side = nameA
		}
		pair += fmt.Sprintf("; %s in %s only", r.flagLabel, side)
	case f.underTest && f.state == Varies:
		return fmt.Sprintf("%s is what is tested, but it varies within a side: %s.", r.label, pair)
	case f.state == UnderTest && !slices.Contains(in.UnderTest, r.factor):
		return fmt.Sprintf("%s comes with what is tested: %s.", r.label, pair)
	case f.state == UnderTest:
		return fmt.Sprintf("%s is what is tested: %s.", r.label, pair)
	case f.state == Same:
		return fmt.Sprintf("%s: %s.", r.label, pair)
	}
	return fmt.Sprintf("%s: %s; %s.", r.label, pair, r.meaning(f, in))
}

// meaning is what follows from values that are not the same, or not known.
func (r rule) meaning(f facts, in CompareInput) string {
	policy := ""
	if in.Policy != nil {
		policy = say.Words(*in.Policy)
	}
	switch {
	case f.weight == None && f.exempt:
		return "the dose speaks for itself here, so the seconds may differ"
	case f.weight == None && !r.matters(in.Question):
		return "it does not bear on " + in.Question
	case f.weight == None && f.state == Unknown:
		return "the measured dose speaks for it"
	case f.weight == None:
		return "too close to matter"
	case f.weight == Major && r.promised(in, f, new(string)) && f.state == Unknown:
		return policy + " were promised, and whether that was kept is not known"
	case f.weight == Major && r.promised(in, f, new(string)):
		return policy + " was promised, and this is not that"
	case f.state == Unknown && r.twoLights(in):
		return "seconds on two lights are not one dose, and the doses were not measured"
	case f.state == Unknown:
		return "if it differed, " + r.effect
	}
	return r.effect
}

func printsSentence(f facts, pair string) string {
	switch {
	case f.weight == Major && f.state == Unknown:
		return fmt.Sprintf("The number of prints is not known on both sides (%s), so nothing says how far one stands for the rest.", pair)
	case f.weight == Major:
		return fmt.Sprintf("One print on a side (%s) cannot tell the set-up from the luck of one print; three a side is the least.", pair)
	case f.weight == Minor:
		return fmt.Sprintf("Fewer than three prints on a side (%s): the spread between prints is hardly known.", pair)
	}
	return fmt.Sprintf("Three prints or more on each side: %s.", pair)
}
