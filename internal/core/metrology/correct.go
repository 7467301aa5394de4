package metrology

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Correction is what is proposed so that the sizes of a part come right, in words, with the
// errors in mm that are expected then. Says is empty where nothing can be told from its sizes.
type Correction struct {
	Says     []string  `json:"says"`
	Expected []float64 `json:"expected_mm"`
}

// leastScalePct and leastBoundaryMM are from what on a correction is worth setting: less is
// what no software keeps to.
const (
	leastScalePct   = 0.02
	leastBoundaryMM = 0.002
)

// fitOf is the fit of an axis and kind; nil where there is none.
func (out SummaryResult) fitOf(axis, kind string) *AxisFit {
	for i, f := range out.Fits {
		if f.Axis == axis && f.Kind == kind {
			return &out.Fits[i]
		}
	}
	return nil
}

// At is the error in mm that is expected of a feature once the part is printed at a scale, in
// per cent of what it was along its axis, with every outline moved outwards by so many mm:
// what grows with the scale is its size less the offset of its fit, and an outer size gains
// the outline twice, an inner one loses it.
func (out SummaryResult) At(f FeatureResult, scalePct, boundaryMM float64) float64 {
	grows := f.MeanMM
	if fit := out.fitOf(f.Axis, f.Kind); fit != nil {
		grows -= fit.OffsetMM
	}
	expected := f.ErrorMM + (scalePct/100-1)*grows
	switch {
	case f.Axis == "z":
	case f.Kind == "outer":
		expected += 2 * boundaryMM
	default:
		expected -= 2 * boundaryMM
	}
	return expected
}

// Correct proposes a correction from what the sizes show: a scale along each axis, and an
// outline. A part of two sizes an axis or fewer proposes none that can be told from its noise.
func Correct(out SummaryResult) (c Correction) {
	scale := map[string]*float64{"x": out.Compensation.ScaleToPct.X, "y": out.Compensation.ScaleToPct.Y, "z": out.Compensation.ScaleToPct.Z}
	var along []string
	for _, axis := range []string{"x", "y", "z"} {
		if s := scale[axis]; s != nil && math.Abs(*s-100) >= leastScalePct {
			along = append(along, fmt.Sprintf("%s %% along %s", say.Figures(*s, 5), axis))
		}
	}
	boundary := quantity.Or(out.Compensation.BoundaryMM, 0)
	if len(along) > 0 {
		c.Says = append(c.Says, "Scale it to "+say.List(along)+" of what it was: that is shrinkage.")
	}
	if math.Abs(boundary) >= leastBoundaryMM {
		way := "out"
		if boundary < 0 {
			way = "in"
		}
		c.Says = append(c.Says, fmt.Sprintf("Move every outline %s by %s a side: that is light that spreads.", way, strings.TrimLeft(say.Micrometres(math.Abs(boundary)), "+")))
	}
	if len(c.Says) == 0 {
		return c
	}
	var before, after float64
	for _, f := range out.Features {
		expected := out.At(f, quantity.Or(scale[f.Axis], 100), boundary)
		c.Expected = append(c.Expected, expected)
		before, after = math.Max(before, math.Abs(f.ErrorMM)), math.Max(after, math.Abs(expected))
	}
	c.Says = append(c.Says, fmt.Sprintf("Expected then: no size off by more than %s, where %s was the largest.", plain(after), plain(before)))
	return c
}

func plain(mm float64) string { return strings.TrimLeft(say.Micrometres(math.Abs(mm)), "+") }

// CameTrue holds what a later print shows against what an earlier one let expect at the scale
// that was set, in per cent of the earlier: feature by feature, within the uncertainties of
// both. Features of both are compared; ok is false where there is none.
func CameTrue(before, after SummaryResult, scalePct float64) (words string, ok bool) {
	var expected, found float64
	within, n := 0, 0
	for _, b := range before.Features {
		for _, a := range after.Features {
			if a.Feature != b.Feature {
				continue
			}
			want := before.At(b, scalePct, 0)
			expected, found, n = expected+want, found+a.ErrorMM, n+1
			if math.Abs(a.ErrorMM-want) <= math.Hypot(a.ExpandedMM, b.ExpandedMM) {
				within++
			}
		}
	}
	if n == 0 {
		return "", false
	}
	verdict := "it came true"
	if within < n {
		verdict = "it did not come true"
		if within > 0 {
			verdict = "it came true in part"
		}
	}
	return fmt.Sprintf("expected at %s %% of its scale: a mean error of %s; found: %s. %d of %s within their uncertainties: %s.", say.Figures(scalePct, 5), say.Micrometres(expected/float64(n)), say.Micrometres(found/float64(n)),
		within, say.Counted(int64(n), "size"), verdict), true
}

// FootAdvice is what follows from feet that are wider by so many mm in the mean of so many
// copies; empty below leastFootMM, which no bottom exposure is changed for.
func FootAdvice(meanMM float64, copies int) string {
	if meanMM < leastFootMM {
		return ""
	}
	return fmt.Sprintf("Feet are wider by %s over %s: lower the bottom exposure by a step, or have the software pull the first layers in by %s a side, and print again.", plain(meanMM), say.Counted(int64(copies), "copy", "copies"), plain(meanMM/2))
}

// leastFootMM is from what on an elephant foot is worth a change: about what a scraper leaves.
const leastFootMM = 0.05
