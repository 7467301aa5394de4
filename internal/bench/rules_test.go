package bench

import (
	"bytes"
	"errors"
	"math"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
)

func masked() Machine {
	n := quantity.Ptr[int64]
	return Machine{Name: "m", LightEngine: "masked_lcd", WidthMM: 160, DepthMM: 90, HeightMM: 160, PxX: n(4000), PxY: n(2250), DialStepS: 0.1,
		Lift: Moves{{MM: 6, MMMin: 60}}, Retract: Moves{{MM: 6, MMMin: 60}}}
}

func laser() Machine {
	p := quantity.Ptr[float64]
	return Machine{Name: "l", LightEngine: Laser, WidthMM: 145, DepthMM: 145, HeightMM: 180, DialStepS: 0.1,
		SpotUM: p(85), HatchMM: p(0.07), HatchMMS: p(2000), ContourPasses: quantity.Ptr[int64](0), ContourMMS: p(900), SettleS: p(6)}
}

func TestMachinesThatCannotBe(t *testing.T) {
	for _, m := range []Machine{masked(), laser()} {
		if err := m.Check(); err != nil {
			t.Errorf("%s: %v", m.Name, err)
		}
	}
	for _, c := range []struct {
		name   string
		from   Machine
		change func(*Machine)
		field  string
	}{
		{"no plate", masked(), func(m *Machine) { m.WidthMM = 0 }, "width_mm"},
		{"centimetres for millimetres", masked(), func(m *Machine) { m.WidthMM, m.DepthMM = 1.6, 0.9 }, "width_mm"},
		{"no pixels", masked(), func(m *Machine) { m.PxY = nil }, "px_y"},
		{"no lift", masked(), func(m *Machine) { m.Lift = nil }, "lift"},
		{"no retract", masked(), func(m *Machine) { m.Retract = nil }, "retract"},
		{"no dial", masked(), func(m *Machine) { m.DialStepS = 0 }, "dial_step_s"},
		{"no spot", laser(), func(m *Machine) { m.SpotUM = nil }, "spot_um"},
		{"no outline passes", laser(), func(m *Machine) { m.ContourPasses = nil }, "contour_passes"},
		{"no settling", laser(), func(m *Machine) { m.SettleS = nil }, "settle_s"},
	} {
		t.Run(c.name, func(t *testing.T) {
			c.change(&c.from)
			wantField(t, c.from.Check(), c.field)
		})
	}
	tilting := masked()
	tilting.Lift, tilting.Retract, tilting.ReleaseS = nil, nil, quantity.Ptr(1.2)
	if err := tilting.Check(); err != nil {
		t.Errorf("a vat that tilts needs no lift: %v", err)
	}
}

func wantField(t *testing.T, err error, path string) {
	t.Helper()
	var field *quantity.FieldError
	if !errors.As(err, &field) || field.Path != path {
		t.Errorf("error %v, want one of field %q", err, path)
	}
}

func TestOtherEntriesThatCannotBe(t *testing.T) {
	p, word := quantity.Ptr[float64], quantity.Ptr[string]
	good := Profile{LayerUM: 50, ExposureS: p(2), BottomExposureS: p(30), Basis: "default"}
	sealed := Profile{LayerUM: 50, Basis: "sealed", SealedName: "Grey, fine"}
	for _, ok := range []error{good.Check(), sealed.Check(), Resin{BottleML: p(500)}.Check(), Resin{BottleG: p(500), DensityGML: p(1.1)}.Check(), Bottle{OpenedOn: word("2026-02-28")}.Check()} {
		if ok != nil {
			t.Error(ok)
		}
	}
	for _, c := range []struct {
		name  string
		err   error
		field string
	}{
		{"layers in millimetres", Profile{LayerUM: 0.05, Basis: "default"}.Check(), "layer_um"},
		{"exposure in milliseconds", Profile{LayerUM: 50, ExposureS: p(2200), Basis: "default"}.Check(), "exposure_s"},
		{"hidden without saying so", Profile{LayerUM: 50, Basis: "default"}.Check(), "exposure_s"},
		{"sealed without a name", Profile{LayerUM: 50, Basis: "sealed"}.Check(), "sealed_name"},
		{"an empty bottle", Resin{}.Check(), "bottle_ml"},
		{"mass without density", Resin{BottleG: p(1000)}.Check(), "density_g_ml"},
		{"density in kg/m³", Resin{BottleML: p(1000), DensityGML: p(1100)}.Check(), "density_g_ml"},
		{"a day that is none", Bottle{ExpiresOn: word("2026-02-30")}.Check(), "expires_on"},
		{"a size without nominal", Feature{Kind: "dimension", Name: "x"}.Check(""), "nominal_mm"},
		{"a ladder of one rung", Feature{Kind: "pins", Name: "x", RungsMM: Sizes{0.2}}.Check("features[2]."), "features[2].rungs_mm"},
		{"a rung of nothing", Feature{Kind: "gaps", Name: "x", RungsMM: Sizes{0.2, 0}}.Check(""), "rungs_mm"},
		{"no start", Run{Copies: 1}.Check(), "started_ms"},
		{"kelvin", Run{Copies: 1, StartedMS: 1, ResinTempC: p(295)}.Check(), "resin_temp_c"},
		{"lost for no reason", Specimen{Outcome: "lost"}.Check(), "defects"},
	} {
		t.Run(c.name, func(t *testing.T) { wantField(t, c.err, c.field) })
	}
}

func TestDefectsThatWereTakenBackCountNoMore(t *testing.T) {
	at := int64(1)
	s := Specimen{Code: "S-1", Outcome: "lost", Defects: []Defect{
		{Symptom: "void", Origin: "printed", Fault: "machine", Severity: "grave", TakenBackMS: &at},
		{Symptom: "broken in handling", Origin: "handling", Fault: "operator"},
	}}
	if s.Weigh(); s.Failed || !s.Accident || s.Symptoms() != "broken in handling" || s.Check() != nil {
		t.Errorf("%+v, %q", s, s.Symptoms())
	}
	s.Defects = s.Defects[:1]
	if s.Check() == nil {
		t.Error("a lost copy without a word passed")
	}
}

func TestTalliesAreByPiece(t *testing.T) {
	tallies := TallyOf([]Specimen{{RunID: "r", PieceID: "a", Outcome: "whole"}, {RunID: "r", PieceID: "b", Outcome: "pending"}, {RunID: "r", PieceID: "a", Outcome: "lost", Failed: true, FailedBy: "resin"}})
	if len(tallies) != 2 || tallies[0].PieceID != "a" || tallies[0].Specimens != 2 || tallies[0].ByResin != 1 || tallies[1].Pending != 1 {
		t.Fatalf("%+v", tallies)
	}
	if all := CountsOf(tallies); all.Specimens != 3 || all.Failed != 1 || all.Shape() != "open" {
		t.Errorf("%+v", all)
	}
}

func TestWhatAPrintWears(t *testing.T) {
	ms := func(v int64) *int64 { return &v }
	s := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		name   string
		run    Run
		layers int64
		lightS float64
	}{
		{"not ended", Run{Layers: 100, LightOnS: s(50)}, 0, 0},
		{"finished", Run{Layers: 100, LightOnS: s(50), EndedMS: ms(1000), EndedHow: EndFinished}, 100, 50},
		{"a stand-in's", Run{Layers: 100, LightOnS: s(50), EndedMS: ms(1000), EndedHow: EndFinished, SpeedUp: s(60)}, 0, 0},
		{"stopped at a layer", Run{Layers: 100, LightOnS: s(50), EndedMS: ms(1000), EndedHow: EndStopped, StoppedLayer: ms(25), OurEstimateS: s(100)}, 25, 12.5},
		{"stopped, by its time", Run{Layers: 100, LightOnS: s(50), EndedMS: ms(40000), PausedS: 10, EndedHow: EndStopped, OurEstimateS: s(100)}, 30, 15},
		{"stopped, nobody knows where", Run{Layers: 100, LightOnS: s(50), EndedMS: ms(40000), EndedHow: EndStopped}, 100, 50},
	} {
		c.run.Wear()
		if c.run.WornLayers != c.layers || c.run.WornLightS == nil || *c.run.WornLightS != c.lightS {
			t.Errorf("%s: %d layers, %v s; want %d and %v", c.name, c.run.WornLayers, c.run.WornLightS, c.layers, c.lightS)
		}
	}
	hidden := Run{Layers: 100, EndedMS: ms(1000), EndedHow: EndFinished}
	if hidden.Wear(); hidden.WornLayers != 100 || hidden.WornLightS != nil {
		t.Errorf("%+v", hidden)
	}
}

func TestAnEndThatIsUndoneCountsNoMore(t *testing.T) {
	prepared := int64(1)
	r := Run{PreparedMS: &prepared}
	events := []RunEvent{{Kind: "start", AtMS: 1000}, {Kind: "pause", AtMS: 2000}, {Kind: "finish", AtMS: 5000}, {Kind: "undo", AtMS: 6000}}
	if got := StateOf(r, events); got != Paused {
		t.Errorf("it is %s", got)
	}
	if got := PausedMS(append(Believed(events), RunEvent{Kind: "finish", AtMS: 9000})); got != 7000 {
		t.Errorf("paused %d ms", got)
	}
	if MayFollow(r, events, RunEvent{Kind: "undo"}) == nil {
		t.Error("an end was undone twice")
	}
	if err := MayFollow(r, events[:3], RunEvent{Kind: "undo"}); err != nil {
		t.Error(err)
	}
	if MayFollow(r, events[:1], RunEvent{Kind: "dial"}) == nil {
		t.Error("a dial was changed to nothing")
	}
}

func TestIDsSortByTimeAndCodesRead(t *testing.T) {
	same := bytes.Repeat([]byte{7}, 64)
	early, err := NewID(1_700_000_000_000, bytes.NewReader(same))
	if err != nil {
		t.Fatal(err)
	}
	late, err := NewID(1_700_000_000_001, bytes.NewReader(same))
	if err != nil {
		t.Fatal(err)
	}
	if early >= late || len(early) != idLength {
		t.Errorf("%s does not come before %s", early, late)
	}
	if _, err := NewID(1, bytes.NewReader(nil)); err == nil {
		t.Error("an id without chance was made")
	}
	for table, want := range map[string]string{"machine": "M7", "run": "R-007", "series": "E-07", "profile": "U-07"} {
		if got := Code(table, 7); got != want {
			t.Errorf("code of %s 7 is %s, want %s", table, got, want)
		}
	}
	if got := SpecimenCode("R-014", 3); got != "S-014-03" {
		t.Errorf("specimen code %s", got)
	}
}

func TestListsComeBackAsTheyWereStored(t *testing.T) {
	for _, want := range []Moves{nil, {{MM: 3, MMMin: 60}, {MM: 4, MMMin: 180}}} {
		stored, err := want.Value()
		if err != nil {
			t.Fatal(err)
		}
		var got Moves
		if err := got.Scan(stored); err != nil || len(got) != len(want) {
			t.Errorf("stored %v, read %v (%v)", want, got, err)
		}
		for i := range want {
			if got[i] != (timing.Move)(want[i]) {
				t.Errorf("stage %d: %v, want %v", i, got[i], want[i])
			}
		}
	}
	var sizes Sizes
	if err := sizes.Scan(int64(3)); err == nil {
		t.Error("a number was read as a list")
	}
}

// A print's time is from start to end without its pauses; what was stopped, or cannot
// be believed, has none and says why.
func TestWhatARunTook(t *testing.T) {
	end, speed := int64(3_600_000), 60.0
	whole := Run{StartedMS: 1, EndedMS: &end, EndedHow: EndFinished}
	for name, c := range map[string]struct {
		change func(*Run)
		want   float64
		reason string
	}{
		"whole":    {func(*Run) {}, 3599.999, ""},
		"paused":   {func(r *Run) { r.PausedS = 600 }, 2999.999, ""},
		"stopped":  {func(r *Run) { r.EndedHow = EndStopped }, 0, "stopped before its end"},
		"open":     {func(r *Run) { r.EndedMS = nil }, 0, "not on record"},
		"back":     {func(r *Run) { r.ClockWentBack = true }, 0, "clock went back"},
		"stand-in": {func(r *Run) { r.SpeedUp = &speed }, 0, "stand-in"},
		"pauses":   {func(r *Run) { r.PausedS = 3600 }, 0, "pauses are longer"},
	} {
		r := whole
		c.change(&r)
		got := r.Took()
		if (got.S == nil) != (c.want == 0) || (got.S != nil && math.Abs(*got.S-c.want) > 1e-9) || !strings.Contains(got.Reason, c.reason) || (got.S == nil) != (got.Reason != "") {
			t.Errorf("%s: %v %q, want %g %q", name, got.S, got.Reason, c.want, c.reason)
		}
	}
	if (Run{EndedMS: &end}).Ended() != EndFinished || (Run{EndedMS: &end, EndedHow: EndStopped}).Ended() != EndStopped || (Run{EndedHow: EndStopped}).Ended() != "" {
		t.Error("how a run ended is not what it says")
	}
}

func TestPausesAreCounted(t *testing.T) {
	at := func(kind string, ms int64) RunEvent { return RunEvent{Kind: kind, AtMS: ms} }
	for _, c := range []struct {
		events []RunEvent
		want   int64
	}{
		{nil, 0},
		{[]RunEvent{at("start", 0), at("finish", 100)}, 0},
		{[]RunEvent{at("start", 0), at("pause", 10), at("note", 15), at("resume", 30), at("pause", 50), at("finish", 90)}, 60},
		{[]RunEvent{at("start", 0), at("pause", 10)}, 0},
		{[]RunEvent{at("start", 50), at("pause", 60), at("resume", 20), at("finish", 90)}, 0},
	} {
		if got := PausedMS(c.events); got != c.want {
			t.Errorf("%+v: %d, want %d", c.events, got, c.want)
		}
	}
}

func TestInstantsWithinAMinuteAreOfOneEvent(t *testing.T) {
	for apart, want := range map[int64]bool{0: true, 59_999: true, -59_999: true, 60_000: false, -60_000: false} {
		if got := SameMoment(1_000_000+apart, 1_000_000); got != want {
			t.Errorf("%d ms apart: %v", apart, got)
		}
	}
}
