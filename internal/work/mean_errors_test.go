package work_test

import (
	"math"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
)

// sized is a desk whose wedge has three sizes of 30, 20 and 5 mm.
func sized(t *testing.T) *desk {
	t.Helper()
	d := newDesk(t)
	size := func(name, axis string, mm float64) bench.Feature {
		outer := "outer"
		return bench.Feature{Kind: "dimension", Name: name, NominalMM: &mm, Axis: &axis, Face: &outer}
	}
	d.piece = must(d.w.Kit.SaveFeatures(t.Context(), d.piece.Piece.ID, d.piece.FeaturesVersion, []bench.Feature{size("Length", "x", 30), size("Depth", "y", 20), size("Height", "z", 5)}))(t)
	return d
}

// measuredAs records a print of two copies whose sizes are off by so many millimetres; NaN
// is not read.
func (d *desk) measuredAs(settings string, offMM ...float64) string {
	d.t.Helper()
	run := d.runOf(2, func(r *bench.Run) { r.ProfileID = settings })
	var readings []bench.Reading
	for i := range run.Specimens {
		run.Specimens[i].Outcome = "whole"
		for k, off := range offMM {
			if !math.IsNaN(off) {
				f := d.piece.Features[k]
				readings = append(readings, bench.Reading{SpecimenID: run.Specimens[i].ID, FeatureID: f.ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(*f.NominalMM + off)})
			}
		}
	}
	must(d.w.Inspect.JudgeSpecimens(d.t.Context(), run.Run.ID, run.Specimens))(d.t)
	must(d.w.Inspect.RecordReadings(d.t.Context(), run.Run.ID, readings, true))(d.t)
	d.clock = d.clock.Add(2 * time.Hour)
	return run.Run.ID
}

// meanErrors are the mean absolute and the mean error of a comparison's sides in mm, none
// where they are not told.
func meanErrors(t *testing.T, d *desk, sides [][]string) (label string, absolute, signed []float64) {
	t.Helper()
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "dimension"}))(t)
	values := func(m contest.Measure) (out []float64) {
		for _, e := range m.Sides {
			out = append(out, *e.Value)
		}
		return out
	}
	for _, m := range c.Measures {
		switch m.Key {
		case "error_abs":
			label, absolute = m.Label, values(m)
		case "error_mean":
			signed = values(m)
		}
	}
	return label, absolute, signed
}

func near(a []float64, b ...float64) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if math.Abs(a[i]-b[i]) > 1e-9 {
			return false
		}
	}
	return true
}

func TestErrorsOfAllSizesStandTogether(t *testing.T) {
	d := sized(t)
	a, b := d.settings(func(*bench.Profile) {}).ID, d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(2.6) }).ID
	sides := [][]string{{d.measuredAs(a, 0.06, -0.03, 0.03), d.measuredAs(a, 0.06, -0.03, 0.03)}, {d.measuredAs(b, 0.12, 0.09, 0.03), d.measuredAs(b, 0.12, 0.09, 0.03)}}
	label, absolute, signed := meanErrors(t, d, sides)
	if label != "The 3 sizes read on all prints: mean absolute error" || !near(absolute, 0.04, 0.08) || !near(signed, 0.02, 0.08) {
		t.Errorf("%s: %v, with their sign %v", label, absolute, signed)
	}
}

// A size that one side did not read is in neither side's mean: the sides would else be
// told apart by what was measured.
func TestSidesAreHeldAgainstEachOtherByTheSameSizes(t *testing.T) {
	none := math.NaN()
	d := sized(t)
	a, b := d.settings(func(*bench.Profile) {}).ID, d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(2.6) }).ID
	whole := []string{d.measuredAs(a, 0.02, -0.02, 0.5), d.measuredAs(a, 0.02, -0.02, 0.5)}
	for _, c := range []struct {
		name             string
		offMM            [2][]float64
		label            string
		absolute, signed []float64
	}{
		{"not read on a side", [2][]float64{{0.02, -0.02, none}, {0.02, -0.02, none}}, "The 2 sizes read on all prints: mean absolute error", []float64{0.02, 0.02}, []float64{0, 0}},
		{"not read on one print", [2][]float64{{0.02, 0.02, 0.4}, {0.02, 0.02, none}}, "The 2 sizes read on all prints: mean absolute error", []float64{0.02, 0.02}, []float64{0, 0.02}},
		{"read on another print each", [2][]float64{{0.02, none, 0.02}, {0.02, 0.02, none}}, "", nil, nil},
		{"one size is no mean", [2][]float64{{0.02, none, none}, {0.02, none, none}}, "", nil, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			label, absolute, signed := meanErrors(t, d, [][]string{whole, {d.measuredAs(b, c.offMM[0]...), d.measuredAs(b, c.offMM[1]...)}})
			if label != c.label || !near(absolute, c.absolute...) || !near(signed, c.signed...) {
				t.Errorf("%q: %v, with their sign %v", label, absolute, signed)
			}
		})
	}
}

// A side that nobody measured takes no size from the other.
func TestASideWithoutReadingsAsksForNothing(t *testing.T) {
	d := sized(t)
	a, b := d.settings(func(*bench.Profile) {}).ID, d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(2.6) }).ID
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{d.measuredAs(a, 0.02, 0.04, 0.06)}, {d.measuredAs(b)}}, Question: "dimension"}))(t)
	m := measure(t, c, "error_abs")
	if m.Sides[0].Value == nil || !quantity.Equal(*m.Sides[0].Value, 0.04) || m.Sides[1].Value != nil || m.Sides[1].Prints != 0 {
		t.Errorf("%+v", m.Sides)
	}
	if m.Pairs[0].P != nil || m.Pairs[0].Reason == "" {
		t.Errorf("held against nothing: %+v", m.Pairs[0])
	}
}
