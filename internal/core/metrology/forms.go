package metrology

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Kinds of form: what is measured on a piece beyond single sizes.
const (
	Round  = "round"
	Angle  = "angle"
	Warp   = "warp"
	Foot   = "foot"
	Fit    = "fit"
	Thread = "thread"
)

// FormKind is a kind of form: what is asked for each value of one reading, in which unit, and what
// their figure is called. A fit has an outcome for each clearance instead, a thread a state;
// both name a mating part.
type FormKind struct {
	Key    string   `json:"key"`
	Name   string   `json:"name"`
	Asks   []string `json:"asks"`
	Unit   string   `json:"unit"`
	Figure string   `json:"figure"`
	Mates  bool     `json:"mates"`
}

// Forms are all kinds of form.
var Forms = []FormKind{
	{Round, "Roundness", []string{"a diameter", "turned by 60°", "turned by 60° more"}, "mm", "out of round", false},
	{Angle, "Angle", []string{"between its faces"}, "°", "error of the angle", false},
	{Warp, "Warp", []string{"corner front left", "front right", "back right", "back left"}, "mm", "highest corner over the lowest", false},
	{Foot, "Elephant foot", []string{"width at the plate", "width 2 mm above it"}, "mm", "wider at the plate", false},
	{Fit, "Fit", nil, "mm", "clearance", true},
	{Thread, "Thread", nil, "", "goes", true},
}

// FormOf is a kind by its key.
func FormOf(key string) (FormKind, bool) {
	i := slices.IndexFunc(Forms, func(f FormKind) bool { return f.Key == key })
	if i < 0 {
		return FormKind{}, false
	}
	return Forms[i], true
}

// Outcomes of a clearance, from too tight to too loose, and of a thread.
var (
	FitOutcomes  = []string{"no", "tight", "holds", "loose"}
	ThreadStates = []string{"no", "binds", "goes"}
)

// FitRung is what became of one clearance, in mm.
type FitRung struct {
	RungMM  float64 `json:"rung_mm"`
	Outcome string  `json:"outcome" enum:"no,tight,holds,loose"`
}

// FormReading is one reading of a form: its values in the unit of the kind (heights and
// diameters in mm, > 0), or the outcome of each clearance, or the state of a thread. Mate
// names the part that it was tried with.
type FormReading struct {
	Measured []float64
	Rungs    []FitRung
	State    string
	Mate     string
}

// Check reports by field what the reading of a kind lacks.
func (r FormReading) Check(kind string) error {
	var c quantity.Checks
	f, known := FormOf(kind)
	if !known {
		return quantity.Errorf("kind", "is %.40q, which is no kind of form", kind)
	}
	if len(r.Measured) != len(f.Asks) {
		c.Fail("measured", "are %d; %s asks for %d: %s", len(r.Measured), f.Name, len(f.Asks), say.List(f.Asks))
	}
	for i, v := range r.Measured {
		if !(v > 0) || math.IsInf(v, 0) {
			c.Fail(fmt.Sprintf("measured[%d]", i), "is %v; give %s in %s, above 0", v, f.Asks[min(i, len(f.Asks)-1)], f.Unit)
		}
	}
	if f.Mates && strings.TrimSpace(r.Mate) == "" {
		c.Fail("mate", "is missing; name the part that it was tried with")
	}
	if kind == Thread {
		c.OneOf("state", r.State, ThreadStates...)
	} else if r.State != "" {
		c.Fail("state", "belongs to a thread")
	}
	if kind == Fit && len(r.Rungs) == 0 {
		c.Fail("rungs", "are none; say of each clearance whether it goes")
	}
	if kind != Fit && len(r.Rungs) > 0 {
		c.Fail("rungs", "belong to a fit")
	}
	for i, g := range r.Rungs {
		c.OneOf(fmt.Sprintf("rungs[%d].outcome", i), g.Outcome, FitOutcomes...)
	}
	return c.Err()
}

// FormFigure is what a reading of values comes to, in the unit of its kind: the largest less
// the smallest diameter or corner, the angle less its nominal, the base less the width above.
func FormFigure(kind string, values []float64, nominal float64) float64 {
	switch kind {
	case Angle:
		return values[0] - nominal
	case Foot:
		return values[0] - values[1]
	}
	return slices.Max(values) - slices.Min(values)
}

// FitLimits are what a fit shows: the smallest clearance in mm that goes together at all, and
// the largest that does not fall apart; nil where none does. Unsteady says that a smaller
// clearance went more easily than a larger one, so that something else decides.
type FitLimits struct {
	TightestMM *float64
	LoosestMM  *float64
	Unsteady   bool
}

// LimitsOf reads the limits from the outcome of each clearance.
func LimitsOf(rungs []FitRung) (out FitLimits) {
	sorted := slices.SortedFunc(slices.Values(rungs), func(a, b FitRung) int {
		switch {
		case a.RungMM < b.RungMM:
			return -1
		case a.RungMM > b.RungMM:
			return 1
		}
		return 0
	})
	last := 0
	for _, r := range sorted {
		at := slices.Index(FitOutcomes, r.Outcome)
		if at > 0 && out.TightestMM == nil {
			out.TightestMM = quantity.Ptr(r.RungMM)
		}
		if r.Outcome == "tight" || r.Outcome == "holds" {
			out.LoosestMM = quantity.Ptr(r.RungMM)
		}
		out.Unsteady = out.Unsteady || at < last
		last = max(last, at)
	}
	return out
}

// Words are what a reading of a kind comes to.
func (r FormReading) Words(kind string, nominal float64) string {
	f, _ := FormOf(kind)
	var text string
	switch kind {
	case Thread:
		text = map[string]string{"no": "does not go", "binds": "binds", "goes": "goes"}[r.State]
	case Fit:
		limits := LimitsOf(r.Rungs)
		text = "tightest that goes " + clearance(limits.TightestMM) + ", loosest that holds " + clearance(limits.LoosestMM)
		if limits.Unsteady {
			text += "; a smaller clearance went more easily than a larger one: try them again, dust or a burr decides"
		}
	case Angle:
		text = say.Figure(FormFigure(kind, r.Measured, nominal)) + f.Unit + ", the error of " + say.Figure(r.Measured[0]) + f.Unit
	default:
		text = f.Figure + " " + say.Micrometres(FormFigure(kind, r.Measured, nominal))
	}
	if r.Mate != "" {
		text += ", with " + r.Mate
	}
	return text
}

func clearance(mm *float64) string {
	if mm == nil {
		return "none"
	}
	return say.Figure(*mm) + " mm"
}

// How far values of one form may lie apart before a slip is likelier: a rim or a foot that is a
// fifth out of true would be seen without measuring, and so would a plate with a corner 3 mm
// up. Both are ours.
const (
	farApart  = 1.2
	farWarpMM = 3.0
)

// FormSlip says of the values of one reading of a form, in its unit, that they lie too far
// apart to be one form, as the beginning of a question; empty where they do not. Nothing is
// dropped by it: what is confirmed is kept.
func FormSlip(kind string, values []float64) string {
	if len(values) < 2 {
		return ""
	}
	low, high := slices.Min(values), slices.Max(values)
	if kind == Warp && high-low <= farWarpMM || kind != Warp && high <= farApart*low {
		return ""
	}
	return fmt.Sprintf("%s beside %s", say.Reading(high), say.Reading(low))
}
