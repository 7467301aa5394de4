package audit

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

func (r rule) show(v any) string {
	switch v := v.(type) {
	case nil:
		return "not known"
	case float64:
		if math.Abs(v) >= 1000 {
			return fmt.Sprintf("%.0f%s", v, r.unit)
		}
		return fmt.Sprintf("%s%s", say.Figures(v, 4), r.unit)
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
func (r rule) sentence(row Row, flagged bool, a, b any, in CompareInput) string {
	pair := fmt.Sprintf("%s in A, %s in B", r.show(a), r.show(b))
	if flagged {
		side := "B"
		if quantity.Or(r.flag(in.A), false) {
			side = "A"
		}
		pair += fmt.Sprintf("; %s in %s only", r.flagLabel, side)
	}
	if row.Factor == "specimens" {
		return specimenSentence(row, pair)
	}
	switch row.State {
	case UnderTest:
		return fmt.Sprintf("%s is what is tested: %s.", r.label, pair)
	case Same:
		return fmt.Sprintf("%s: %s on both sides.", r.label, r.show(a))
	case Unknown:
		if row.Weight == None {
			return fmt.Sprintf("%s: %s; it does not bear on %s.", r.label, pair, in.Question)
		}
		return fmt.Sprintf("%s: %s; if it differed, %s.", r.label, pair, r.effect)
	}
	switch {
	case row.Weight == None && !r.matters(in.Question):
		return fmt.Sprintf("%s: %s; it does not bear on %s.", r.label, pair, in.Question)
	case row.Weight == None:
		return fmt.Sprintf("%s: %s; too close to matter.", r.label, pair)
	}
	return fmt.Sprintf("%s: %s; %s.", r.label, pair, r.effect)
}

func specimenSentence(row Row, pair string) string {
	switch {
	case row.Weight == Major && row.State == Unknown:
		return fmt.Sprintf("The number of specimens is not known on both sides (%s), so nothing says how far one print stands for the rest.", pair)
	case row.Weight == Major:
		return fmt.Sprintf("One specimen on a side (%s) cannot tell the set-up from the luck of one print; three a side is the least.", pair)
	case row.Weight == Minor:
		return fmt.Sprintf("Fewer than three specimens on a side (%s): the spread between prints is hardly known.", pair)
	}
	return fmt.Sprintf("Three specimens or more on each side: %s.", pair)
}
