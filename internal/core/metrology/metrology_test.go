package metrology

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func summary(t *testing.T, in SummaryInput) SummaryResult {
	t.Helper()
	out, err := Summary(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func size(axis, kind string, nominal float64, values ...float64) FeatureReadings {
	return FeatureReadings{Feature: axis + kind, Axis: axis, Kind: kind, NominalMM: nominal, ValuesMM: values}
}

func near(a, b float64) bool { return math.Abs(a-b) <= 1e-9*math.Max(1, math.Abs(b)) }

// The grades of ISO 286-1 by its tables: 2·|error| in micrometres against the limits.
func TestGradesAreThoseOfISO286(t *testing.T) {
	for _, c := range []struct {
		nominal, error float64
		grade          int // 0: none
	}{
		// Over 18 up to 30 mm, i = 1.3: IT5 9, IT6 13, IT7 21, IT8 33, IT9 52, IT10 84 µm.
		{25, 0.0045, 5}, {25, 0.0060, 6}, {25, 0.0100, 7}, {25, 0.0160, 8}, {25, 0.0255, 9}, {25, 0.0400, 10}, {25, -0.0400, 10},
		// Up to 3 mm, i = 0.54: IT9 21.7, IT13 135, IT14 217 µm.
		{2, 0.0100, 9}, {2, 0.0650, 13}, {2, 0.1000, 14}, {3, 0.0900, 14},
		// Over 3 mm the next step begins: the same error grades finer.
		{3.001, 0.0900, 13},
		{0.3, 0.6, 18}, {0.3, 0.8, 0}, {250, 0.1, 11}, {250.001, 0, 0}, {100, 0, 5},
	} {
		got := itGrade(c.nominal, c.error)
		if (got == nil) != (c.grade == 0) || (got != nil && *got != c.grade) {
			t.Errorf("%v mm off a nominal of %v: %v, want %d", c.error, c.nominal, got, c.grade)
		}
	}
}

func TestAGradeNeverImprovesWithTheError(t *testing.T) {
	chance := rand.New(rand.NewPCG(2, 3))
	for range 500 {
		nominal, small := 0.2+240*chance.Float64(), chance.Float64()/2
		a, b := itGrade(nominal, small), itGrade(nominal, small*(1+chance.Float64()))
		if a == nil && b != nil || a != nil && b != nil && *b < *a {
			t.Fatalf("%v mm at %v: %v, then %v", nominal, small, a, b)
		}
	}
}

// An outline that is too wide by a constant is an offset; one that grows with the size
// is a scale. Both are told apart, and undone by the compensation.
func TestAnOffsetAndAScaleAreToldApart(t *testing.T) {
	made := func(offset, scale float64) (in SummaryInput) {
		for _, axis := range []string{"x", "y"} {
			for _, n := range []float64{5, 10, 20, 40} {
				v := n + offset + scale*n
				in.Readings = append(in.Readings, size(axis, "outer", n, v-0.001, v+0.001))
			}
		}
		return in
	}
	for _, c := range []struct{ offset, scale float64 }{{0, 0}, {0.08, 0}, {0, -0.004}, {0.05, 0.003}, {-0.06, 0.01}} {
		out := summary(t, made(c.offset, c.scale))
		if len(out.Fits) != 2 || out.Fits[0].Axis != "x" || out.Fits[1].Axis != "y" {
			t.Fatalf("fits %+v", out.Fits)
		}
		for _, f := range out.Fits {
			if math.Abs(f.OffsetMM-c.offset) > 1e-9 || math.Abs(f.ScalePct-100*c.scale) > 1e-7 || f.OffsetSEMM == nil || f.N != 4 {
				t.Errorf("%+v, want offset %v and scale %v", f, c.offset, c.scale)
			}
		}
		if to := *out.Compensation.ScaleToPct.X; !near(to, 100/(1+c.scale)) {
			t.Errorf("scale to %v %%", to)
		}
		if b := *out.Compensation.BoundaryMM; math.Abs(b+c.offset/2) > 1e-9 {
			t.Errorf("an outline that is %v mm wide is moved by %v", c.offset, b)
		}
		if out.Compensation.ScaleToPct.Z != nil {
			t.Error("nothing was measured along z")
		}
	}
}

// A hole that is too small asks for the same boundary as a post that is too thick.
func TestHolesAndPostsAgreeOnTheBoundary(t *testing.T) {
	posts := summary(t, SummaryInput{Readings: []FeatureReadings{size("x", "outer", 5, 5.1), size("x", "outer", 10, 10.1)}})
	holes := summary(t, SummaryInput{Readings: []FeatureReadings{size("x", "inner", 5, 4.9), size("x", "inner", 10, 9.9)}})
	if !near(*posts.Compensation.BoundaryMM, -0.05) || !near(*holes.Compensation.BoundaryMM, -0.05) {
		t.Errorf("posts ask for %v, holes for %v", *posts.Compensation.BoundaryMM, *holes.Compensation.BoundaryMM)
	}
	if holes.Compensation.ScaleToPct.X != nil || holes.Fits[0].OffsetSEMM != nil {
		t.Errorf("holes scale nothing, and two sizes have no standard error: %+v", holes)
	}
	heights := summary(t, SummaryInput{Readings: []FeatureReadings{size("z", "outer", 5, 5.1), size("z", "outer", 10, 10.1)}})
	if heights.Compensation.BoundaryMM != nil || heights.Compensation.ScaleToPct.Z == nil {
		t.Errorf("a height is no outline: %+v", heights.Compensation)
	}
}

func TestUncertaintyHasItsThreeParts(t *testing.T) {
	tool := Instrument{ResolutionMM: 0.012, ReferenceUMM: 0.003}
	out := summary(t, SummaryInput{Instrument: tool, Readings: []FeatureReadings{size("x", "outer", 10, 10.00, 10.02, 10.04, 10.02), size("x", "outer", 20, 20.05)}})
	variance := 0.0008 / 3
	if f := out.Features[0]; !near(f.MeanMM, 10.02) || !near(*f.SDMM, math.Sqrt(variance)) || !near(f.UMM, math.Sqrt(variance/4+0.012*0.012/12+0.003*0.003)) || !near(f.ExpandedMM, 2*f.UMM) {
		t.Errorf("%+v", f)
	}
	// Read once, it borrows the spread of what was read again.
	if f := out.Features[1]; f.SDMM != nil || !near(f.UMM, math.Sqrt(variance+0.012*0.012/12+0.003*0.003)) {
		t.Errorf("%+v", f)
	}
	if out.Has("single_reading") {
		t.Error("warned of single readings, though one feature was read again")
	}
	once := summary(t, SummaryInput{Instrument: tool, Readings: []FeatureReadings{size("x", "outer", 10, 10.02)}})
	if !once.Has("single_reading") || !near(once.Features[0].UMM, math.Sqrt(0.012*0.012/12+0.003*0.003)) {
		t.Errorf("%+v", once)
	}
}

func TestAllErrorsAreSummedUp(t *testing.T) {
	out := summary(t, SummaryInput{Readings: []FeatureReadings{size("x", "outer", 10, 10.1), size("y", "outer", 20, 19.8)}})
	o := out.Overall
	if !near(o.MeanErrorMM, -0.05) || !near(o.MeanAbsMM, 0.15) || !near(o.RMSMM, math.Sqrt((0.01+0.04)/2)) || !near(o.MaxAbsMM, 0.2) || !near(o.MeanAbsPct, 1) {
		t.Errorf("%+v", o)
	}
	if len(out.Fits) != 0 || out.Compensation.BoundaryMM != nil {
		t.Errorf("one size an axis fits nothing: %+v", out)
	}
	if *out.ITGrade != max(*out.Features[0].ITGrade, *out.Features[1].ITGrade) {
		t.Errorf("the part's grade is %d", *out.ITGrade)
	}
}

func TestWarningsOfASummary(t *testing.T) {
	for code, readings := range map[string][]FeatureReadings{
		"percent_inflates": {size("x", "outer", 1.99, 2, 2.01)},
		"no_it_grade":      {size("x", "outer", 300, 300, 300.1)},
		"scale_absurd":     {size("x", "outer", 5, 5, 5.01), size("x", "outer", 10, 0.1, 0.11)},
	} {
		if out := summary(t, SummaryInput{Readings: readings}); !out.Has(code) {
			t.Errorf("%s is not warned: %+v", code, out.Warnings)
		}
	}
	if out := summary(t, SummaryInput{Readings: []FeatureReadings{size("x", "outer", 2, 2, 2.01)}}); out.Has("percent_inflates") {
		t.Error("2 mm is not under 2 mm")
	}
}

func TestSummariesThatCannotBe(t *testing.T) {
	for field, in := range map[string]SummaryInput{
		"readings": {}, "readings[0].axis": {Readings: []FeatureReadings{size("w", "outer", 1, 1)}}, "readings[0].kind": {Readings: []FeatureReadings{size("x", "side", 1, 1)}},
		"readings[1].nominal_mm": {Readings: []FeatureReadings{size("x", "outer", 1, 1), size("x", "outer", 0, 1)}}, "readings[0].values_mm": {Readings: []FeatureReadings{size("x", "outer", 1)}},
		"readings[0].values_mm[1]": {Readings: []FeatureReadings{size("x", "outer", 1, 1, math.NaN())}}, "instrument.resolution_mm": {Readings: []FeatureReadings{size("x", "outer", 1, 1)}, Instrument: Instrument{ResolutionMM: -1}},
		"instrument.reference_u_mm": {Readings: []FeatureReadings{size("x", "outer", 1, 1)}, Instrument: Instrument{ReferenceUMM: math.Inf(1)}},
	} {
		_, err := Summary(in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != field {
			t.Errorf("error %v, want one of field %s", err, field)
		}
	}
}
