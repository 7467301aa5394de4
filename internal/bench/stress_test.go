package bench

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stress"
)

func dropping() StressSeries {
	kind, _ := stress.KindOf(stress.Drop)
	return StressSeries{Kind: kind.Key, Mode: stress.Fresh, Name: "Falls", Under: "onto oak", Stage: "cured", Levels: Sizes{200, 400}, Anchors: kind.Anchors[:], FailsFrom: 3}
}

func TestAStressSeriesKeepsItsRules(t *testing.T) {
	if err := dropping().Check(); err != nil {
		t.Error(err)
	}
	for at, spoil := range map[string]func(*StressSeries){
		"stage":      func(s *StressSeries) { s.Stage = "gilded" },
		"under":      func(s *StressSeries) { s.Under = "" },
		"levels[1]":  func(s *StressSeries) { s.Levels = Sizes{200, 100} },
		"anchors":    func(s *StressSeries) { s.Anchors = nil },
		"fails_from": func(s *StressSeries) { s.FailsFrom = 0 },
	} {
		s := dropping()
		spoil(&s)
		if err := s.Check(); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
}

// A bar has no classes of damage, whatever a form sent along.
func TestABarHasNoClasses(t *testing.T) {
	s := dropping()
	s.Kind, s.Mode, s.SpanMM = stress.Stiffness, stress.Cumulative, quantity.Ptr(40.0)
	s.Plain()
	if err := s.Check(); err != nil || len(s.Anchors) != 0 || s.FailsFrom != 0 {
		t.Errorf("%+v: %v", s, err)
	}
	d := dropping()
	if d.Plain(); len(d.Anchors) != stress.Classes {
		t.Errorf("a fall lost its classes: %v", d.Anchors)
	}
}

func TestAStressTestShowsOneThing(t *testing.T) {
	class := func(v int64) *int64 { return &v }
	for _, c := range []struct {
		at string
		t  StressTest
	}{
		{"", StressTest{Level: 1, Damage: class(0)}},
		{"", StressTest{Level: 1, DeflectionMM: quantity.Ptr(0.0)}},
		{"damage", StressTest{Level: 1}},
		{"damage", StressTest{Level: 1, Damage: class(1), DeflectionMM: quantity.Ptr(1.0)}},
		{"damage", StressTest{Level: 1, Damage: class(5)}},
		{"damage", StressTest{Level: 1, Damage: class(-1)}},
		{"deflection_mm", StressTest{Level: 1, DeflectionMM: quantity.Ptr(math.NaN())}},
		{"deflection_mm", StressTest{Level: 1, DeflectionMM: quantity.Ptr(-0.1)}},
		{"level", StressTest{Damage: class(1)}},
	} {
		err := c.t.Check()
		if c.at == "" && err != nil || c.at != "" && (err == nil || !strings.HasPrefix(err.Error(), c.at+":")) {
			t.Errorf("%+v: %v, want %q", c.t, err, c.at)
		}
	}
	bar := dropping()
	bar.Kind = stress.Stiffness
	if err := bar.Takes(StressTest{Level: 20, Damage: class(1)}); err == nil || !strings.HasPrefix(err.Error(), "deflection_mm") {
		t.Errorf("a class of a bar: %v", err)
	}
	if err := dropping().Takes(StressTest{Level: 200, DeflectionMM: quantity.Ptr(1.0)}); err == nil || !strings.HasPrefix(err.Error(), "damage") {
		t.Errorf("a deflection of a fall: %v", err)
	}
}

func TestTestsTakenBackAreNotShown(t *testing.T) {
	class := int64(2)
	shown := ShownTests([]StressTest{{SpecimenID: "a", Level: 200, Damage: &class, TakenBackMS: quantity.Ptr[int64](9)}, {SpecimenID: "a", Level: 400, Damage: &class}})
	if len(shown) != 1 || shown[0].Level != 400 || *shown[0].Damage != 2 {
		t.Errorf("%+v", shown)
	}
}

func TestABarNeedsBothOfItsSizes(t *testing.T) {
	width, thick := 10.0, 3.0
	for _, c := range []struct {
		s  StressSpecimen
		ok bool
	}{{StressSpecimen{WidthMM: &width, ThicknessMM: &thick}, true}, {StressSpecimen{WidthMM: &width}, false}, {StressSpecimen{ThicknessMM: &thick}, false}, {StressSpecimen{}, false}} {
		if bar, ok := c.s.Bar(); ok != c.ok || ok && (bar.WidthMM != 10 || bar.ThicknessMM != 3) {
			t.Errorf("%+v: %+v %v", c.s, bar, ok)
		}
	}
	for at, s := range map[string]StressSpecimen{"mass_g": {MassG: quantity.Ptr(0.0)}, "width_mm": {WidthMM: quantity.Ptr(-1.0)}, "thickness_mm": {ThicknessMM: quantity.Ptr(0.0)}} {
		if err := s.Check(); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
}

// Washed and cured are known from the print, from its end on; the rest from what was noted and
// not taken back.
func TestWhereAStageIsKnownFrom(t *testing.T) {
	seconds, none := 60.0, 0.0
	stages := []SpecimenStage{{SpecimenID: "a", Stage: "varnished", AtMS: 80, TakenBackMS: quantity.Ptr[int64](81)}, {SpecimenID: "a", Stage: "primed", AtMS: 90, ReworkMin: quantity.Ptr(4.0)},
		{SpecimenID: "b", Stage: "painted", AtMS: 95}, {SpecimenID: "a", Stage: "primed", AtMS: 99, ReworkMin: quantity.Ptr(1.5)}}
	for _, c := range []struct {
		run  Run
		want string
	}{
		{Run{EndedMS: quantity.Ptr[int64](50), WashS: &seconds, CureS: &seconds}, "washed 50; cured 50; primed 90; primed 99; "},
		{Run{EndedMS: quantity.Ptr[int64](50), WashS: &seconds, CureS: &none}, "washed 50; primed 90; primed 99; "},
		{Run{WashS: &seconds}, "primed 90; primed 99; "},
	} {
		got := ""
		for _, r := range ReachedBy(c.run, stages, "a") {
			got += r.Stage + " " + string(rune('0'+r.AtMS/10)) + string(rune('0'+r.AtMS%10)) + "; "
		}
		if got != c.want {
			t.Errorf("%q, want %q", got, c.want)
		}
	}
	if took := ReworkOf(stages, "a"); took == nil || *took != 5.5 {
		t.Errorf("%v", took)
	}
	if took := ReworkOf(stages, "b"); took != nil {
		t.Errorf("%v minutes that nobody noted", *took)
	}
	for at, s := range map[string]SpecimenStage{"stage": {Stage: "gilded"}, "rework_min": {Stage: "primed", ReworkMin: quantity.Ptr(0.0)}} {
		if err := s.Check(); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
}

func TestAWeighingIsADensity(t *testing.T) {
	w := ResinWeighing{MassG: 11, VolumeML: 10}
	if err := w.Check(); err != nil || w.DensityGML() != 1.1 {
		t.Errorf("%v %v", w.DensityGML(), err)
	}
	for at, w := range map[string]ResinWeighing{"mass_g": {VolumeML: 10}, "volume_ml": {MassG: 11}} {
		if err := w.Check(); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
}
