package exposure

import (
	"fmt"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Schools of choosing an exposure from a series.
const (
	Fit      = "fit"      // dimensions come out right
	Detail   = "detail"   // thin solids and thin gaps resolve equally small
	Survival = "survival" // everything comes off the plate whole
)

// Reading is one judged cell of a series. Errors are measured − nominal in
// millimetres: a post too thick is +, a hole too small is −. Every judged
// field may be nil; of the two counts both or neither.
type Reading struct {
	ExposureS     float64  `json:"exposure_s"`
	Survived      *bool    `json:"survived,omitempty"`
	OuterErrorMM  *float64 `json:"outer_error_mm,omitempty"`
	InnerErrorMM  *float64 `json:"inner_error_mm,omitempty"`
	SmallestPinMM *float64 `json:"smallest_pin_mm,omitempty"`
	SmallestGapMM *float64 `json:"smallest_gap_mm,omitempty"`
	FeaturesOK    *int64   `json:"features_ok,omitempty"`
	FeaturesTotal *int64   `json:"features_total,omitempty"`
}

// SeriesInput is one series. School defaults to detail, DialStepS (the
// machine's smallest step of exposure) to 0.1 s.
type SeriesInput struct {
	Readings  []Reading `json:"readings"`
	School    *string   `json:"school,omitempty"`
	DialStepS *float64  `json:"dial_step_s,omitempty"`
}

// FitChoice is where the outer and inner errors balance, in seconds, with both
// lines' values there in millimetres (nil for a line left out).
type FitChoice struct {
	ExposureS *float64           `json:"exposure_s"`
	CI        *quantity.Interval `json:"ci"`
	OuterAtMM *float64           `json:"outer_at_mm"`
	InnerAtMM *float64           `json:"inner_at_mm"`
}

// DetailChoice is where smallest pin and smallest gap meet, and that size. CI is nil
// where leaving exposures out one by one does not give it.
type DetailChoice struct {
	ExposureS  *float64           `json:"exposure_s"`
	ResolvedMM float64            `json:"resolved_mm"`
	CI         *quantity.Interval `json:"ci"`
}

// Suspect is a reading, by index, that lies far off the line of its field.
type Suspect struct {
	Reading int    `json:"reading"`
	Field   string `json:"field"`
}

// SurvivalChoice is the lowest exposure from which everything comes whole, and
// the next tested one above it. Both nil where nothing survived.
type SurvivalChoice struct {
	LowestS   *float64 `json:"lowest_s"`
	ExposureS *float64 `json:"exposure_s"`
}

// Recommendation is the choice, what to dial, and why.
type Recommendation struct {
	School    string  `json:"school"`
	ExposureS float64 `json:"exposure_s"`
	DialS     float64 `json:"dial_s"`
	Reason    string  `json:"reason"`
}

// Next is what to print next: accept, recheck, repeat, extend or narrow. The three
// numbers are nil for accept and recheck, else five cells from FromS to ToS.
type Next struct {
	Action string   `json:"action"`
	FromS  *float64 `json:"from_s"`
	ToS    *float64 `json:"to_s"`
	StepS  *float64 `json:"step_s"`
}

// SeriesResult holds the three schools' answers, the recommendation and the
// next step. A school is nil where the readings do not reach.
type SeriesResult struct {
	Fit         *FitChoice      `json:"fit"`
	Detail      *DetailChoice   `json:"detail"`
	Survival    *SurvivalChoice `json:"survival"`
	Recommended *Recommendation `json:"recommended"`
	Next        Next            `json:"next"`
	Suspects    []Suspect       `json:"suspects"`
	quantity.Warnings
}

// Series evaluates a series by the three schools and recommends one exposure.
// It flags fit_wrong_slope, ladders_not_monotone, nothing_survived, no_margin,
// fallback, survival_floor, extrapolated, no_choice, suspect_cell and unbounded.
func Series(in SeriesInput) (SeriesResult, error) {
	school, dial := quantity.Or(in.School, Detail), quantity.Or(in.DialStepS, 0.1)
	if err := checkSeries(in, school, dial); err != nil {
		return SeriesResult{}, err
	}
	out := SeriesResult{Warnings: quantity.None()}
	tested := testedExposures(in.Readings)
	out.fit(in.Readings)
	out.detail(in.Readings)
	out.survival(in.Readings)
	out.Suspects = suspects(in.Readings)
	if len(out.Suspects) > 0 {
		out.Warn("suspect_cell", "Cell readings lie far off the others' line (%s); read or print them again before choosing.", say.Counted(int64(len(out.Suspects)), "reading"))
	}
	out.recommend(school, dial, tested)
	out.Next = out.next(dial, tested)
	return out, nil
}

// mostReadings bounds a series: far more cells than any plate holds.
const mostReadings = 1000

func checkSeries(in SeriesInput, school string, dial float64) error {
	var c quantity.Checks
	if len(in.Readings) == 0 {
		c.Fail("readings", "are empty; at least one cell is needed")
	}
	if len(in.Readings) > mostReadings {
		c.Fail("readings", "are %d; a series has up to %d", len(in.Readings), mostReadings)
	}
	for i, r := range in.Readings {
		at := func(field string) string { return fmt.Sprintf("readings[%d].%s", i, field) }
		c.Above(at("exposure_s"), r.ExposureS)
		c.NumberIf(at("outer_error_mm"), r.OuterErrorMM)
		c.NumberIf(at("inner_error_mm"), r.InnerErrorMM)
		c.AboveIf(at("smallest_pin_mm"), r.SmallestPinMM)
		c.AboveIf(at("smallest_gap_mm"), r.SmallestGapMM)
		switch {
		case r.FeaturesOK == nil && r.FeaturesTotal == nil:
		case r.FeaturesOK == nil:
			c.Fail(at("features_ok"), "is missing while features_total is given; give both or neither")
		case r.FeaturesTotal == nil:
			c.Fail(at("features_total"), "is missing while features_ok is given; give both or neither")
		default:
			c.CountNotBelow(at("features_ok"), *r.FeaturesOK)
			c.CountAbove(at("features_total"), *r.FeaturesTotal)
			if *r.FeaturesOK > *r.FeaturesTotal {
				c.Fail(at("features_ok"), "is %d of %d; it cannot be more than the total", *r.FeaturesOK, *r.FeaturesTotal)
			}
		}
	}
	c.OneOf("school", school, Fit, Detail, Survival)
	c.Above("dial_step_s", dial)
	return c.Err()
}

func testedExposures(readings []Reading) []float64 {
	var out []float64
	for _, r := range readings {
		out = append(out, r.ExposureS)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// choice is the exposure of one school, or nil where it has none.
func (out *SeriesResult) choice(school string) *float64 {
	switch {
	case school == Fit && out.Fit != nil:
		return out.Fit.ExposureS
	case school == Detail && out.Detail != nil:
		return out.Detail.ExposureS
	case school == Survival && out.Survival != nil:
		return out.Survival.ExposureS
	}
	return nil
}

// recommend falls back detail → fit → survival, then keeps the choice above
// what survives and says when it left the tested range.
func (out *SeriesResult) recommend(asked string, dial float64, tested []float64) {
	school := asked
	if out.choice(asked) == nil {
		school = ""
		for _, s := range []string{Detail, Fit, Survival} {
			if out.choice(s) != nil {
				school = s
				break
			}
		}
	}
	if school == "" {
		out.Warn("no_choice", "No school can choose from these readings yet; judge more cells.")
		return
	}
	rec := Recommendation{School: school, ExposureS: *out.choice(school), Reason: reasons[school]}
	if school != asked {
		out.Warn("fallback", "The readings do not reach for %q; chosen by %q instead.", asked, school)
		rec.Reason += fmt.Sprintf(" The readings do not reach for %q.", asked)
	}
	var lowest *float64
	if out.Survival != nil {
		lowest = out.Survival.LowestS
	}
	if lowest != nil && quantity.Less(rec.ExposureS, *lowest) {
		out.Warn("survival_floor", "The choice, %s s, lies below %s s, from which everything comes off whole; raised to %s s.", say.Figure(rec.ExposureS), say.Figure(*lowest), say.Figure(*out.Survival.ExposureS))
		rec.ExposureS = *out.Survival.ExposureS
		rec.Reason += " Raised to where every cell comes off whole."
	}
	first, last := tested[0], tested[len(tested)-1]
	if quantity.Less(rec.ExposureS, first) || quantity.Less(last, rec.ExposureS) {
		out.Warn("extrapolated", "The choice, %s s, lies outside the tested %s to %s s; print there before using it.", say.Figure(rec.ExposureS), say.Figure(first), say.Figure(last))
	}
	rec.DialS = dialled(rec.ExposureS, dial)
	if lowest != nil && quantity.Less(rec.DialS, *lowest) {
		rec.DialS = quantity.Ceil(rec.ExposureS/dial) * dial
	}
	out.Recommended = &rec
}

var reasons = map[string]string{
	Fit:      "Outer and inner dimensions are off by the least here.",
	Detail:   "Thin solids and thin gaps resolve equally small here.",
	Survival: "One step above the lowest exposure from which every cell comes off whole.",
}

// dialled rounds to the machine's step, at least one step.
func dialled(v, step float64) float64 {
	return max(1, quantity.Round(v/step)) * step
}
