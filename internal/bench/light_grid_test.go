package bench

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestTheLightOfAPrintIsThatOfItsPanel(t *testing.T) {
	grids := []LightGrid{{ID: "first", AtMS: 100}, {ID: "second", AtMS: 300}, {ID: "wrong", AtMS: 310, TakenBackMS: quantity.Ptr[int64](311)}}
	panel := MachineEvent{AtMS: 200, Kinds: IDs{"panel"}}
	retired := MachineEvent{AtMS: 120, Kinds: IDs{"light_calibration"}, RetiredMS: quantity.Ptr[int64](121)}
	knots := []MachineEvent{panel, retired, {AtMS: 130, Kinds: IDs{"film"}}}
	for at, want := range map[int64]string{0: "first", 100: "first", 150: "first", 199: "first", 200: "second", 250: "second", 309: "second", 900: "second"} {
		if got := GridAt(grids, knots, at); got == nil || got.ID != want {
			t.Errorf("at %d: %+v, want %s", at, got, want)
		}
	}
	if got := GridAt(grids[:1], knots, 200); got != nil {
		t.Errorf("of another panel: %+v", got)
	}
	if got := GridAt(nil, nil, 0); got != nil {
		t.Errorf("never measured: %+v", got)
	}
}

func TestSpotsAreThoseOfThePanel(t *testing.T) {
	surveys := []PlateSurvey{{ID: "first", AtMS: 100, Spots: Spots{{XMM: 50, YMM: 40, RadiusMM: 1}}}, {ID: "second", AtMS: 300}}
	knots := []MachineEvent{{AtMS: 200, Kinds: IDs{"panel"}}, {AtMS: 150, Kinds: IDs{"light_calibration"}}}
	for at, want := range map[int64]string{0: "first", 199: "first", 200: "second"} {
		if got := SurveyAt(surveys, knots, at); got == nil || got.ID != want {
			t.Errorf("at %d: %+v, want %s", at, got, want)
		}
	}
	for _, c := range []struct {
		x, y, size float64
		want       bool
	}{{50, 40, 0.5, true}, {56, 40, 10, true}, {56.01, 40, 10, false}, {50, 46, 10, true}, {50, 46.01, 10, false}, {44, 34, 10, true}, {80, 80, 10, false}} {
		if got := surveys[0].Over(c.x, c.y, c.size); got != c.want {
			t.Errorf("%v mm at %v, %v: over the spot %v", c.size, c.x, c.y, got)
		}
	}
}
