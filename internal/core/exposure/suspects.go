package exposure

import (
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// judgedField is a field of a reading that runs along a line on ln(exposure); what lies
// off it by more than both far spreads and Least is suspect. Fields of one group share
// their spread.
type judgedField struct {
	name  string
	group int
	least float64
	value func(Reading) *float64
}

var judgedFields = []judgedField{
	{"outer_error_mm", 0, 0.08, func(r Reading) *float64 { return r.OuterErrorMM }},
	{"inner_error_mm", 0, 0.08, func(r Reading) *float64 { return r.InnerErrorMM }},
	{"smallest_pin_mm", 1, 0.11, func(r Reading) *float64 { return r.SmallestPinMM }},
	{"smallest_gap_mm", 1, 0.11, func(r Reading) *float64 { return r.SmallestGapMM }},
}

// A field needs so many values at so many exposures before one of them can be far off;
// it is by so many robust standard deviations.
const (
	fewestValues, fewestExposures = 5, 4
	farSDs, madToSD               = 3.5, 1.4826
)

// suspects are readings far off a robust line of their field (Theil 1950, Sen 1968), in
// the order of the readings.
func suspects(readings []Reading) []Suspect {
	residuals := make([]map[int]float64, len(judgedFields))
	spread := map[int][]float64{}
	for i, f := range judgedFields {
		residuals[i] = offLine(readings, f.value)
		for _, r := range residuals[i] {
			spread[f.group] = append(spread[f.group], math.Abs(r))
		}
	}
	out := []Suspect{}
	for reading := range readings {
		for i, f := range judgedFields {
			r, known := residuals[i][reading]
			if known && quantity.Less(math.Max(farSDs*madToSD*stats.Median(spread[f.group]), f.least), math.Abs(r)) {
				out = append(out, Suspect{reading, f.name})
			}
		}
	}
	return out
}

// offLine is by how much each reading of a field lies off its line, by index; none where
// the field has too few.
func offLine(readings []Reading, value func(Reading) *float64) map[int]float64 {
	var index []int
	var x, y []float64
	for i, r := range readings {
		if v := value(r); v != nil {
			index, x, y = append(index, i), append(x, math.Log(r.ExposureS)), append(y, *v)
		}
	}
	if len(y) < fewestValues || stats.Distinct(x) < fewestExposures {
		return nil
	}
	var slopes []float64
	for i := range x {
		for j := range i {
			if x[i] != x[j] {
				slopes = append(slopes, (y[i]-y[j])/(x[i]-x[j]))
			}
		}
	}
	slope := stats.Median(slopes)
	rest := make([]float64, len(y))
	for i := range y {
		rest[i] = y[i] - slope*x[i]
	}
	intercept := stats.Median(slices.Clone(rest))
	out := map[int]float64{}
	for i, at := range index {
		out[at] = rest[i] - intercept
	}
	return out
}
