package exposure

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

// line is a series on straight ladders that cross at 2 s, with a little noise.
func line(noise float64, exposures ...float64) (in SeriesInput) {
	chance := rand.New(rand.NewPCG(3, 9))
	for _, e := range exposures {
		over := math.Log(e / 2)
		in.Readings = append(in.Readings, Reading{ExposureS: e, Survived: quantity.Ptr(true), SmallestPinMM: quantity.Ptr(0.3 - 0.2*over + noise*chance.NormFloat64()), SmallestGapMM: quantity.Ptr(0.3 + 0.2*over + noise*chance.NormFloat64()),
			OuterErrorMM: quantity.Ptr(0.1*over + noise*chance.NormFloat64()), InnerErrorMM: quantity.Ptr(-0.1*over + noise*chance.NormFloat64())})
	}
	return in
}

func series(t *testing.T, in SeriesInput) SeriesResult {
	t.Helper()
	out, err := Series(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// A cell that was misread is named, by its field, and the series is not accepted.
func TestACellThatWasMisreadIsNamed(t *testing.T) {
	exposures := []float64{1.4, 1.6, 1.8, 2, 2.2, 2.4, 2.8}
	clean := series(t, line(0.003, exposures...))
	if len(clean.Suspects) != 0 || clean.Has("suspect_cell") || clean.Next.Action == "recheck" {
		t.Errorf("a clean series: %+v, %s", clean.Suspects, clean.Next.Action)
	}
	for field, spoil := range map[string]func(*Reading){
		"smallest_pin_mm": func(r *Reading) { r.SmallestPinMM = quantity.Ptr(*r.SmallestPinMM + 0.2) },
		"smallest_gap_mm": func(r *Reading) { r.SmallestGapMM = quantity.Ptr(*r.SmallestGapMM + 0.2) },
		"outer_error_mm":  func(r *Reading) { r.OuterErrorMM = quantity.Ptr(*r.OuterErrorMM - 0.12) },
		"inner_error_mm":  func(r *Reading) { r.InnerErrorMM = quantity.Ptr(*r.InnerErrorMM + 0.12) },
	} {
		in := line(0.003, exposures...)
		spoil(&in.Readings[3])
		got := series(t, in)
		if len(got.Suspects) != 1 || got.Suspects[0] != (Suspect{3, field}) || got.Next.Action != "recheck" || got.Next.FromS != nil {
			t.Errorf("%s: %+v, next %s", field, got.Suspects, got.Next.Action)
		}
	}
	small := line(0.003, exposures...)
	small.Readings[3].SmallestPinMM = quantity.Ptr(*small.Readings[3].SmallestPinMM + 0.1)
	if got := series(t, small); len(got.Suspects) != 0 {
		t.Errorf("a rung off is no slip: %+v", got.Suspects)
	}
	few := line(0.003, 1.4, 1.8, 2.2, 2.6)
	few.Readings[1].SmallestPinMM = quantity.Ptr(2.0)
	if got := series(t, few); len(got.Suspects) != 0 {
		t.Errorf("four values tell nothing of one: %+v", got.Suspects)
	}
}

// The interval of the crossing covers what the series was made from, about as often as it
// says.
func TestTheCrossingsIntervalCovers(t *testing.T) {
	chance := rand.New(rand.NewPCG(10, 20))
	covered, known := 0, 0
	const many = 400
	for range many {
		in := line(0, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8)
		for i := range in.Readings {
			r := &in.Readings[i]
			r.SmallestPinMM, r.SmallestGapMM = quantity.Ptr(*r.SmallestPinMM+0.01*chance.NormFloat64()), quantity.Ptr(*r.SmallestGapMM+0.01*chance.NormFloat64())
		}
		got := series(t, in)
		if got.Detail.CI == nil {
			continue
		}
		known++
		if got.Detail.CI[0] <= 2 && got.Detail.CI[1] >= 2 {
			covered++
		}
	}
	if share := float64(covered) / float64(known); known < many*9/10 || share < 0.9 {
		t.Errorf("%d of %d intervals cover it, of %d series", covered, known, many)
	}
	if got := series(t, line(0.01, 1.5, 2, 2.5)); got.Detail.CI != nil {
		t.Errorf("three exposures give an interval: %v", got.Detail.CI)
	}
}

// A choice is accepted when its interval is within the dial or eight hundredths of it,
// narrowed while cells lie further apart than a step, and repeated when they do not.
func TestAChoiceIsAcceptedWhenItsIntervalIsNarrow(t *testing.T) {
	tight, loose := line(0.002, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8), line(0.022, 1.4, 1.7, 2, 2.3, 2.6)
	if got := series(t, tight); got.Next.Action != "accept" {
		t.Errorf("tight: %s, interval %v", got.Next.Action, got.Detail.CI)
	}
	got := series(t, loose)
	if got.Next.Action != "narrow" || *got.Next.StepS < 0.1 || *got.Next.StepS > 0.2 {
		t.Errorf("loose: %+v, interval %v", got.Next, got.Detail.CI)
	}
	fine := line(0.022, 1.8, 1.9, 2, 2.1, 2.2)
	if got := series(t, fine); got.Next.Action != "repeat" && got.Next.Action != "extend" {
		t.Errorf("cells a step apart: %s, interval %v", got.Next.Action, got.Detail.CI)
	}
	survival := SeriesInput{School: quantity.Ptr(Survival), Readings: []Reading{whole(1.9, false), whole(2.0, true), whole(2.1, true), whole(2.2, true)}}
	if got := series(t, survival); got.Next.Action != "accept" {
		t.Errorf("the floor is known to a step: %s", got.Next.Action)
	}
}
