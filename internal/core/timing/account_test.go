package timing

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

// plate is a print of 1,000 layers whose lift and exposure are given.
func plate(exposureS, liftMMMin, restS float64) MaskedInput {
	return MaskedInput{HeightMM: 50, LayerUM: 50, ExposureS: exposureS, Bottom: Bottom{Layers: 5, ExposureS: 30},
		Lift: []Move{{6, liftMMMin}}, Retract: []Move{{6, 180}}, Wait: &Wait{AfterLiftS: &restS}}
}

func explained(t *testing.T, a, b MaskedInput, measuredS *float64) Accounts {
	t.Helper()
	e, err := Explain(ExplainInput{A: a, B: b})
	if err != nil {
		t.Fatal(err)
	}
	of, err := Masked(b)
	if err != nil {
		t.Fatal(err)
	}
	return AccountFor(e, measuredS, of.TotalS)
}

func TestSettingsAccountForADifference(t *testing.T) {
	for _, c := range []struct {
		name      string
		a, b      MaskedInput
		measuredS *float64
		want      map[string]string
		restS     *float64
	}{
		// 1,000 layers: 4 s of lift each more, 0.3 s of exposure less.
		{"a slow lift", plate(2, 60, 0.5), plate(2.3, 180, 0.5), nil, map[string]string{"lift": Most, "exposure": Impossible}, nil},
		{"lift and rest", plate(2, 60, 2.5), plate(2, 180, 0.5), nil, map[string]string{"lift": Most, "wait": Part}, nil},
		{"a bright lamp is no reason", plate(2.5, 180, 0.5), plate(2.2, 180, 0.5), quantity.Ptr(4000.0), map[string]string{"exposure": Impossible}, quantity.Ptr(4000 - 0.3*995)},
		{"nothing to explain", plate(2, 60, 0.5), plate(2, 60, 0.5), quantity.Ptr(20.0), map[string]string{}, quantity.Ptr(20.0)},
		{"the other way about", plate(2, 180, 0.5), plate(2, 60, 0.5), quantity.Ptr(3000.0), map[string]string{"lift": Impossible}, quantity.Ptr(7000.0)},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := explained(t, c.a, c.b, c.measuredS)
			if len(got.Settings) != len(c.want) {
				t.Fatalf("%+v", got.Settings)
			}
			if got.Alike != (len(c.want) == 0) {
				t.Errorf("alike %t", got.Alike)
			}
			for i, s := range got.Settings {
				if s.Can != c.want[s.Setting] {
					t.Errorf("%s: %s", s.Setting, s.Can)
				}
				if i > 0 && math.Abs(s.MovesS) > math.Abs(got.Settings[i-1].MovesS) {
					t.Errorf("%s stands after a smaller one", s.Setting)
				}
			}
			if (got.RestS == nil) != (c.restS == nil) || got.RestS != nil && math.Abs(*got.RestS-*c.restS) > 1 {
				t.Errorf("rest %v", quantity.Or(got.RestS, math.NaN()))
			}
		})
	}
}

// What the settings leave is spoken of from a quarter of the difference, and from two
// minutes where there is none.
func TestWhatIsLeftIsSpokenOf(t *testing.T) {
	a, b := plate(2, 60, 0.5), plate(2, 180, 0.5) // the lift makes 4,000 s
	for _, c := range []struct {
		a         MaskedInput
		measuredS float64
		want      bool
	}{
		{a, 4000, false}, {a, 4000 / 0.76, false}, {a, 4000 / 0.74, true}, {a, 4000 / 1.24, false}, {a, 4000 / 1.26, true},
		{b, 50, false}, {a, 30, true},
	} {
		if got := explained(t, c.a, b, &c.measuredS); got.Unexplained != c.want {
			t.Errorf("%v s measured, %v left: %t", c.measuredS, *got.RestS, got.Unexplained)
		}
	}
	for restS, want := range map[float64]bool{119: false, 121: true} {
		if got := AccountFor(ExplainResult{DifferenceS: -restS}, quantity.Ptr(0.0), 8000); got.Unexplained != want || !got.Alike {
			t.Errorf("%v s where none were measured: %+v", restS, got)
		}
	}
	if explained(t, a, b, nil).Unexplained {
		t.Error("nothing was measured, and something is left of it")
	}
}

// Turned about, the same setting moves as much the other way.
func TestAccountsTurnWithTheirSides(t *testing.T) {
	a, b := plate(2, 60, 2.5), plate(2.4, 180, 0.5)
	there, back := explained(t, a, b, nil), explained(t, b, a, nil)
	if there.DifferenceS != -back.DifferenceS || len(there.Settings) != len(back.Settings) {
		t.Fatalf("%v there, %v back", there, back)
	}
	for i, s := range there.Settings {
		if o := back.Settings[i]; o.Setting != s.Setting || math.Abs(o.MovesS+s.MovesS) > 1e-6 || math.Abs(o.Share-s.Share) > 1e-9 {
			t.Errorf("%+v there, %+v back", s, o)
		}
	}
}
