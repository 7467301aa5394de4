package claims

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// What else may become of a claim.
const (
	Partly     = "partly"
	Untested   = "untested"
	Untestable = "untestable"
)

// States are all that may become of a claim.
var States = []string{Met, Partly, NotMet, CannotTell, Untested, Untestable}

// Bounds of a claimed number.
const (
	Least = "at_least"
	Most  = "at_most"
	Near  = "about"
)

// near is how far off a value may be, as a share of it, that is claimed as about so much.
const near = 0.05

// Held is a claimed number against a measured interval at 95 %, in the same unit, by its bound. About holds where all of
// the interval is within a twentieth of the claim, and fails where none of it is.
func Held(bound string, claimed float64, measured *quantity.Interval) string {
	switch bound {
	case Least:
		return AtLeast(claimed, measured)
	case Most:
		return AtMost(claimed, measured)
	}
	if measured == nil {
		return CannotTell
	}
	low, high := claimed-near*math.Abs(claimed), claimed+near*math.Abs(claimed)
	switch {
	case measured[0] >= low && measured[1] <= high:
		return Met
	case measured[1] < low || measured[0] > high:
		return NotMet
	}
	return CannotTell
}

// Over is what became of a claim that was held against several things, such as set-ups of one machine: met where all meet
// it, not met where some do not and none does, since one that does not is enough, partly where both happened, else not to
// be told; untested without any.
func Over(states []string) string {
	if len(states) == 0 {
		return Untested
	}
	met, not := slices.Contains(states, Met), slices.Contains(states, NotMet)
	switch {
	case met && not:
		return Partly
	case not:
		return NotMet
	case met && !slices.ContainsFunc(states, func(s string) bool { return s != Met }):
		return Met
	}
	return CannotTell
}

// LifeInput is a claimed life in Unit (h, or layers), what the part has done so far in the same unit, at least, and for how
// many hours a week the machine runs, with what it does in an hour (1 for hours; layers an hour, or hours lit an hour, by
// what is on record; 0 where that is not known).
type LifeInput struct {
	Life     float64
	Unit     string
	Used     float64
	HPerWeek float64
	PerHour  float64
}

// LifeResult makes lives comparable: in weeks at the owner's hours, and how many of them are used; nil where that cannot be
// known.
type LifeResult struct {
	Weeks     *float64
	UsedWeeks *float64
	State     string
	Says      string
}

// Life holds a claimed life against what a part has done: met once it did as much; before that it is unproven. Life and
// HPerWeek are above 0, Used and PerHour not below.
func Life(in LifeInput) (out LifeResult, err error) {
	var c quantity.Checks
	c.Above("life", in.Life)
	c.Above("h_per_week", in.HPerWeek)
	c.NotBelow("used", in.Used)
	c.NotBelow("per_hour", in.PerHour)
	if c.Err() != nil {
		return out, c.Err()
	}
	claimed := say.InUnit(say.Whole(math.Round(in.Life)), in.Unit)
	out.State = Untested
	if in.PerHour > 0 {
		out.Weeks, out.UsedWeeks = quantity.Ptr(in.Life/in.PerHour/in.HPerWeek), quantity.Ptr(in.Used/in.PerHour/in.HPerWeek)
		claimed += fmt.Sprintf(" are %s at %s h a week", weeks(*out.Weeks), say.Figure(in.HPerWeek))
	}
	used := say.InUnit(say.Whole(math.Round(in.Used)), in.Unit)
	if out.UsedWeeks != nil {
		used += fmt.Sprintf(" (%s)", weeks(*out.UsedWeeks))
	}
	if quantity.AtMost(in.Life, in.Used) {
		out.State, out.Says = Met, fmt.Sprintf("%s; it has done %s", claimed, used)
		return out, nil
	}
	out.Says = fmt.Sprintf("%s; %s are used so far: unproven", claimed, used)
	return out, nil
}

func weeks(n float64) string { return say.Counted(int64(math.Round(n)), "week") }

// quantities are what a ratio of two plates may be of, in words, in the order of Ratios.
var quantities = []struct {
	key, words string
	of         func(Ratios) *float64
}{
	{"pixel_count", "the pixel count", func(r Ratios) *float64 { return &r.PixelCount }},
	{"linear_resolution", "pixels along a millimetre", func(r Ratios) *float64 { return &r.LinearResolution }},
	{"density", "pixels in a square millimetre", func(r Ratios) *float64 { return &r.Density }},
	{"plate_width", "the width of the plate", func(r Ratios) *float64 { return &r.PlateWidth }},
	{"plate_area", "the area of the plate", func(r Ratios) *float64 { return &r.PlateArea }},
	{"volume", "the build volume", func(r Ratios) *float64 { return r.Volume }},
}

// Quantities are what a claimed ratio may be said to be of.
func Quantities() (keys []string) {
	for _, q := range quantities {
		keys = append(keys, q.key)
	}
	return keys
}

// RatioIs says what a claimed ratio is: of what it is claimed (a key of Quantities, or empty where that is not said), and
// which quantity it can mean. It is met where the quantity that was named has it within 3 %, or where one is found that
// does and none was named; then partly, since the reader is left to guess.
func RatioIs(of string, claimed float64, r QuantityResult) (state, says string) {
	var all, matching []string
	state = NotMet
	for _, q := range quantities {
		value := q.of(r.Ratios)
		if value == nil {
			if q.key == of {
				state = Untestable
			}
			continue
		}
		told := fmt.Sprintf("%s %s times", q.words, say.Figure(*value))
		if slices.Contains(r.Matches, q.key) {
			matching = append(matching, q.words)
			if q.key == of {
				state = Met
			}
		}
		all = append(all, told)
	}
	says = fmt.Sprintf("%s times is no ratio of the two", say.Figure(claimed))
	if len(matching) > 0 {
		says = fmt.Sprintf("%s times is %s", say.Figure(claimed), say.List(matching))
		if of == "" {
			state = Partly
		}
	}
	return state, says + "; by what is on record: " + strings.Join(all, ", ")
}

// RatioOf is the ratio of a quantity by its key; nil where it is not known.
func RatioOf(key string, r Ratios) *float64 {
	for _, q := range quantities {
		if q.key == key {
			return q.of(r)
		}
	}
	return nil
}
