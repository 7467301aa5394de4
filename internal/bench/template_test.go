package bench

import (
	"testing"

	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
)

func TestNewSettingsBeginWithATemplate(t *testing.T) {
	p, whole := quantity.Ptr[float64], quantity.Ptr[int64]
	template := Profile{ResinID: "grey", LayerUM: 50, ExposureS: p(2.4), BottomLayers: whole(6), BottomExposureS: p(28), TransitionLayers: whole(3), Antialiasing: "grey", Basis: "calibrated",
		Lift: Moves{timing.Move{MM: 5, MMMin: 40}}, Retract: Moves{timing.Move{MM: 5, MMMin: 90}}, WaitLiftS: p(1), LightPowerPct: p(80), Options: Options{{"blur", "2", "px"}}}
	for name, c := range map[string]struct {
		in                        Profile
		exposed, bottom, wait, pc float64
		layers                    int64
	}{
		"of its resin and layer height": {Profile{ResinID: "grey", LayerUM: 50}, 2.4, 28, 1, 80, 6},
		"of another resin":              {Profile{ResinID: "clear", LayerUM: 50}, -1, -1, 1, 80, 6},
		"of another layer height":       {Profile{ResinID: "grey", LayerUM: 30}, -1, -1, 1, 80, 6},
		"what it says stays":            {Profile{ResinID: "grey", LayerUM: 50, ExposureS: p(3), WaitLiftS: p(0), BottomLayers: whole(0)}, 3, 28, 0, 80, 0},
		"hidden settings get nothing":   {Profile{ResinID: "grey", LayerUM: 50, Basis: "sealed"}, -1, -1, -1, -1, -1},
	} {
		got := c.in
		got.BeginsWith(template)
		if quantity.Or(got.ExposureS, -1) != c.exposed || quantity.Or(got.BottomExposureS, -1) != c.bottom || quantity.Or(got.WaitLiftS, -1) != c.wait || quantity.Or(got.LightPowerPct, -1) != c.pc || quantity.Or(got.BottomLayers, -1) != c.layers {
			t.Errorf("%s: %+v", name, got)
		}
		if open := c.in.Basis != "sealed"; (len(got.Lift) == 1) != open || (len(got.Options) == 1) != open || (got.Antialiasing == "grey") != open {
			t.Errorf("%s: lift %v, options %v, %q", name, got.Lift, got.Options, got.Antialiasing)
		}
	}
	sealed := Profile{ResinID: "grey", LayerUM: 50}
	sealed.BeginsWith(Profile{ResinID: "grey", LayerUM: 50, Basis: "sealed", BottomLayers: whole(5)})
	if sealed.BottomLayers != nil {
		t.Error("a sealed template gave what it hides")
	}
}

func TestTheTemplateIsTheLastMadeSo(t *testing.T) {
	at := quantity.Ptr[int64]
	profiles := []Profile{{ID: "a", MachineID: "m", TemplateSinceMS: at(5)}, {ID: "b", MachineID: "m", TemplateSinceMS: at(9)}, {ID: "c", MachineID: "m"}, {ID: "d", MachineID: "n", TemplateSinceMS: at(50)},
		{ID: "e", MachineID: "m", TemplateSinceMS: at(90), ArchivedMS: at(91)}}
	if got := TemplateOf(profiles, "m"); got == nil || got.ID != "b" {
		t.Errorf("%+v", got)
	}
	if got := TemplateOf(profiles[2:3], "m"); got != nil {
		t.Errorf("none was made so, and it is %+v", got)
	}
}

func TestAChecklistGivesWhatAPieceLacks(t *testing.T) {
	l := Checklist{Kind: "figure", Checkpoints: Checkpoints{{"Face", "front"}, {"Fingers", ""}, {"Sword tip", "top"}}}
	if err := l.Check(); err != nil {
		t.Fatal(err)
	}
	got := l.Beside([]Feature{{Kind: "checkpoint", Name: " fingers"}, {Kind: "dimension", Name: "Height"}})
	if len(got) != 2 || got[0].Name != "Face" || got[0].Place != "front" || got[0].Kind != "checkpoint" || got[1].Name != "Sword tip" {
		t.Errorf("%+v", got)
	}
	for _, bad := range []Checklist{{Kind: " "}, {Kind: "figure", Checkpoints: Checkpoints{{" ", ""}}}, {Kind: "figure", Checkpoints: Checkpoints{{"Face", ""}, {"face ", ""}}}} {
		if bad.Check() == nil {
			t.Errorf("%+v was taken", bad)
		}
	}
	if !SameKind("Figure ", "figure") || SameKind("figure", "figures") {
		t.Error("kinds are told apart by more than capitals and blanks, or by less")
	}
}
