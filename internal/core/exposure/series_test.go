package exposure

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

// cell is a reading with pins and gaps that meet where pin == gap.
func cell(exposure, pin, gap float64) Reading {
	return Reading{ExposureS: exposure, SmallestPinMM: &pin, SmallestGapMM: &gap}
}

func whole(exposure float64, survived bool) Reading {
	return Reading{ExposureS: exposure, Survived: &survived}
}

func errors(exposure, outer, inner float64) Reading {
	return Reading{ExposureS: exposure, OuterErrorMM: &outer, InnerErrorMM: &inner}
}

func TestFlagsSayWhatTheChoiceRestsOn(t *testing.T) {
	for _, c := range []struct {
		name     string
		school   string
		readings []Reading
		flags    []string
		chosen   string
		action   string
	}{
		{"only survival judged, detail asked", Detail, []Reading{whole(1, false), whole(2, true), whole(3, true)}, []string{"fallback"}, Survival, "narrow"},
		{"nothing judged", Detail, []Reading{{ExposureS: 1}, {ExposureS: 2}, {ExposureS: 3}}, []string{"no_choice"}, "", "repeat"},
		{"all lost", Survival, []Reading{whole(1, false), whole(2, false), whole(3, false)}, []string{"nothing_survived", "no_choice"}, "", "extend"},
		{"a gap in survival", Survival, []Reading{whole(1, true), whole(2, false), whole(3, true)}, []string{"no_margin"}, Survival, "narrow"},
		{"only the top whole", Survival, []Reading{whole(1, false), whole(2, false), whole(3, true)}, []string{"no_margin"}, Survival, "narrow"},
		{"pins grow", Detail, []Reading{cell(1, 0.2, 0.1), cell(2, 0.3, 0.2), cell(3, 0.4, 0.3)}, []string{"ladders_not_monotone"}, Detail, "narrow"},
		{"ladders meet far above", Detail, []Reading{cell(1, 0.50, 0.10), cell(1.1, 0.49, 0.11), cell(1.2, 0.48, 0.12)}, []string{"extrapolated"}, Detail, "extend"},
		{"outer errors fall", Fit, []Reading{errors(1, 0.05, 0.05), errors(2, 0, 0), errors(3, -0.02, -0.03)}, []string{"fit_wrong_slope"}, Fit, ""},
		{"below what survives", Detail, []Reading{whole(1, false), whole(2, false), whole(3, true), whole(4, true), cell(1, 0.4, 0.2), cell(2, 0.2, 0.3), cell(3, 0.1, 0.4)}, []string{"survival_floor"}, Detail, ""},
		{"two exposures", Detail, []Reading{whole(1, true), whole(2, true)}, []string{"fallback"}, Survival, "repeat"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := Series(SeriesInput{Readings: c.readings, School: &c.school})
			if err != nil {
				t.Fatal(err)
			}
			for _, flag := range c.flags {
				if !got.Has(flag) {
					t.Errorf("flags %v, want %s", got.Warnings.Warnings, flag)
				}
			}
			chosen := ""
			if got.Recommended != nil {
				chosen = got.Recommended.School
			}
			if chosen != c.chosen || (c.action != "" && got.Next.Action != c.action) {
				t.Errorf("chosen by %q, next %s, want %q and %s", chosen, got.Next.Action, c.chosen, c.action)
			}
		})
	}
}

// What is dialled is a step of the machine and never falls below what survives.
func TestTheDialNeverGoesBelowTheFloor(t *testing.T) {
	for _, dial := range []float64{0.1, 0.25, 0.5, 1} {
		got, err := Series(SeriesInput{DialStepS: &dial, School: quantity.Ptr(Survival),
			Readings: []Reading{whole(1.1, false), whole(2.2, true), whole(2.3, true), whole(3.4, true)}})
		if err != nil {
			t.Fatal(err)
		}
		rec := got.Recommended
		if steps := rec.DialS / dial; math.Abs(steps-math.Round(steps)) > 1e-9 || rec.DialS < *got.Survival.LowestS-1e-9 {
			t.Errorf("step %v: dial %v s, lowest that survives %v s", dial, rec.DialS, *got.Survival.LowestS)
		}
	}
}

func TestMissingHalfOfACountIsNamed(t *testing.T) {
	three := quantity.Ptr[int64](3)
	for path, r := range map[string]Reading{
		"readings[0].features_ok":    {ExposureS: 1, FeaturesTotal: three},
		"readings[0].features_total": {ExposureS: 1, FeaturesOK: three},
		"readings[0].exposure_s":     {},
	} {
		_, err := Series(SeriesInput{Readings: []Reading{r}})
		if field, ok := err.(*quantity.FieldError); !ok || field.Path != path {
			t.Errorf("error %v, want one of %s", err, path)
		}
	}
	if _, err := Series(SeriesInput{Readings: []Reading{{ExposureS: 1, FeaturesOK: quantity.Ptr[int64](4), FeaturesTotal: three}}}); err == nil {
		t.Error("four of three features were whole")
	}
}

// The curve is made with Dp = 110 µm and Ec = 3 mJ/cm²; both must come back.
func TestTheCurveFindsWhatItWasMadeFrom(t *testing.T) {
	in := CurveInput{DoseUnit: "mj_cm2", IrradianceMWCM2: quantity.Ptr(4.0), LayerUM: quantity.Ptr(50.0), OvercureUM: quantity.Ptr(60.0)}
	for _, dose := range []float64{6, 9, 14, 22, 35} {
		in.Points = append(in.Points, CurvePoint{Dose: dose, ThicknessUM: 110 * math.Log(dose/3)})
	}
	got, err := WorkingCurve(in)
	if err != nil {
		t.Fatal(err)
	}
	if math.Abs(got.DpUM-110) > 1e-6 || math.Abs(*got.Ec-3) > 1e-6 || math.Abs(*got.TimeForS-3*math.E/4) > 1e-6 {
		t.Errorf("Dp %v µm, Ec %v mJ/cm², %v s", got.DpUM, *got.Ec, *got.TimeForS)
	}
	if got.DpCI[0] > 110+1e-6 || got.DpCI[1] < 110-1e-6 || got.EcCI[0] > 3+1e-6 || got.EcCI[1] < 3-1e-6 {
		t.Errorf("intervals %v and %v leave the truth out", got.DpCI, *got.EcCI)
	}
}

func TestBracketSpansInStepsOfTheDial(t *testing.T) {
	for _, c := range []struct {
		name        string
		from, to    float64
		cells       int64
		dial        float64
		first, step float64
	}{
		{"plain", 2, 3, 5, 0.05, 2, 0.25},
		{"between steps: the last cell is not short of the end", 2, 3, 4, 0.1, 2, 0.4},
		{"narrower than the dial: one step of it", 2, 2.1, 5, 0.5, 2, 0.5},
		{"never at nothing", 0.1, 0.4, 2, 0.5, 0.5, 0.5},
	} {
		first, step := Bracket(c.from, c.to, c.cells, c.dial)
		if math.Abs(first-c.first) > 1e-12 || math.Abs(step-c.step) > 1e-12 {
			t.Errorf("%s: from %v in steps of %v s, want %v and %v", c.name, first, step, c.first, c.step)
		}
	}
}
