package timing

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func p[V any](v V) *V { return &v }

func wantPath(t *testing.T, err error, path string) {
	t.Helper()
	var wrong *quantity.FieldError
	if !errors.As(err, &wrong) || wrong.Path != path {
		t.Errorf("error %v, want one of field %s", err, path)
	}
}

// job is ten layers: two bottom ones of 20 s, three transition ones, five of 2 s; each
// lifts 6 s and retracts 3.
func job() MaskedInput {
	return MaskedInput{HeightMM: 0.5, LayerUM: 50, Bottom: Bottom{Layers: 2, ExposureS: 20}, TransitionLayers: p[int64](3), ExposureS: 2,
		Lift: []Move{{MM: 6, MMMin: 60}}, Retract: []Move{{MM: 6, MMMin: 120}}}
}

func masked(t *testing.T, change func(*MaskedInput)) MaskedResult {
	t.Helper()
	in := job()
	change(&in)
	out, err := Masked(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestWhereAPrintsTimeGoes(t *testing.T) {
	for _, c := range []struct {
		name     string
		change   func(*MaskedInput)
		light    float64
		lift     float64
		retract  float64
		wait     float64
		overhead float64
	}{
		// The transition steps are 15.5, 11 and 6.5 s.
		{"as it is", func(*MaskedInput) {}, 40 + 33 + 10, 60, 30, 0, 0},
		{"waits, every layer", func(in *MaskedInput) {
			in.Wait = &Wait{BeforeExposureS: p(1.0), AfterExposureS: p(0.5), AfterLiftS: p(0.25)}
		}, 83, 60, 30, 17.5, 0},
		{"start and end", func(in *MaskedInput) { in.StartS, in.EndS = p(40.0), p(20.0) }, 83, 60, 30, 0, 60},
		{"a slow bottom lift", func(in *MaskedInput) { in.BottomLift = []Move{{MM: 6, MMMin: 30}} }, 83, 2*12 + 8*6, 30, 0, 0},
		{"two stages", func(in *MaskedInput) { in.Lift = []Move{{MM: 3, MMMin: 60}, {MM: 3, MMMin: 180}} }, 83, 10 * 4, 30, 0, 0},
		{"a vat that tilts", func(in *MaskedInput) {
			in.ReleaseS, in.BottomLift = p(1.5), []Move{{MM: 9, MMMin: 1}}
		}, 83, 15, 0, 0, 0},
		{"no transition", func(in *MaskedInput) { in.TransitionLayers = nil }, 40 + 16, 60, 30, 0, 0},
		{"all bottom", func(in *MaskedInput) { in.Bottom.Layers = 40 }, 200, 60, 30, 0, 0},
		{"transition cut short", func(in *MaskedInput) { in.Bottom.Layers, in.TransitionLayers = 8, p[int64](3) }, 160 + 15.5 + 11, 60, 30, 0, 0},
	} {
		got := masked(t, c.change)
		b := got.Breakdown
		for what, pair := range map[string][2]float64{"light": {b.ExposureS, c.light}, "lift": {b.LiftS, c.lift}, "retract": {b.RetractS, c.retract}, "wait": {b.WaitS, c.wait}, "overhead": {b.OverheadS, c.overhead},
			"total": {got.TotalS, c.light + c.lift + c.retract + c.wait + c.overhead}, "lit": {got.LightOnS, c.light}, "duty": {got.LightDuty, c.light / got.TotalS}} {
			if math.Abs(pair[0]-pair[1]) > 1e-9 {
				t.Errorf("%s: %s %v, want %v", c.name, what, pair[0], pair[1])
			}
		}
		if got.Layers != 10 {
			t.Errorf("%s: %d layers", c.name, got.Layers)
		}
	}
}

func TestLayersAreCountedWithoutRoundingNoise(t *testing.T) {
	for height, want := range map[float64]int64{0.5: 10, 0.50000001: 10, 0.501: 11, 0.0001: 1, 0.05: 1, 0.3: 6} {
		if got := masked(t, func(in *MaskedInput) { in.HeightMM = height }); got.Layers != want {
			t.Errorf("%v mm is %d layers, want %d", height, got.Layers, want)
		}
	}
	if got := masked(t, func(in *MaskedInput) { in.HeightMM, in.LayerUM = 0.3, 100 }); got.Layers != 3 || !quantity.Equal(got.CeilingMMH, 100*3.6/got.LayerS) {
		t.Errorf("%+v", got)
	}
}

func TestPrintsThatCannotBe(t *testing.T) {
	for path, change := range map[string]func(*MaskedInput){
		"height_mm": func(in *MaskedInput) { in.HeightMM = 0 }, "layer_um": func(in *MaskedInput) { in.LayerUM = -1 }, "exposure_s": func(in *MaskedInput) { in.ExposureS = 0 },
		"bottom.exposure_s": func(in *MaskedInput) { in.Bottom.ExposureS = -1 }, "lift": func(in *MaskedInput) { in.Lift = nil }, "retract": func(in *MaskedInput) { in.Retract = nil },
		"lift[0].mm_min": func(in *MaskedInput) { in.Lift[0].MMMin = 0 }, "retract[0].mm": func(in *MaskedInput) { in.Retract[0].MM = -1 }, "release_s": func(in *MaskedInput) { in.ReleaseS = p(-1.0) },
		"transition_layers": func(in *MaskedInput) { in.TransitionLayers = p[int64](-1) }, "wait.after_lift_s": func(in *MaskedInput) { in.Wait = &Wait{AfterLiftS: p(-1.0)} }, "start_s": func(in *MaskedInput) { in.StartS = p(-1.0) },
	} {
		in := job()
		change(&in)
		_, err := Masked(in)
		wantPath(t, err, path)
	}
}

// A longer exposure, a thinner layer or a slower lift never makes a print shorter.
func TestNothingSlowerMakesAPrintShorter(t *testing.T) {
	chance := rand.New(rand.NewPCG(21, 4))
	for range 300 {
		in := job()
		in.HeightMM, in.LayerUM, in.ExposureS = 1+30*chance.Float64(), 20+80*chance.Float64(), 1+5*chance.Float64()
		base, err := Masked(in)
		if err != nil {
			t.Fatal(err)
		}
		for name, change := range map[string]func(*MaskedInput){
			"exposure": func(in *MaskedInput) { in.ExposureS *= 1.1 }, "height": func(in *MaskedInput) { in.HeightMM *= 1.1 },
			"lift": func(in *MaskedInput) { in.Lift = []Move{{MM: in.Lift[0].MM, MMMin: in.Lift[0].MMMin / 2}} }, "bottom": func(in *MaskedInput) { in.Bottom.ExposureS *= 1.1 },
		} {
			slower := in
			change(&slower)
			if got, err := Masked(slower); err != nil || got.TotalS < base.TotalS-1e-9 {
				t.Fatalf("%s: %v s, before %v s (%v)", name, got.TotalS, base.TotalS, err)
			}
		}
	}
}

func TestALaserGrowsWithWhatIsOnThePlate(t *testing.T) {
	in := LaserInput{Layers: 200, AreaMM2Total: 4000, PerimeterMMTotal: 9000, Copies: 1, HatchMM: 0.1, HatchMMS: 2000, ContourPasses: 2, ContourMMS: 900, SettleS: 8, StartS: p(60.0), EndS: p(30.0)}
	one, err := Laser(in)
	if err != nil {
		t.Fatal(err)
	}
	light := 4000/(0.1*2000) + 2*9000.0/900
	if !quantity.Equal(one.LightOnS, light) || !quantity.Equal(one.TotalS, light+200*8+90) || !quantity.Equal(one.LayerS, light/200+8) || !quantity.Equal(one.Breakdown.OverheadS, 90) || !quantity.Equal(one.Breakdown.WaitS, 1600) {
		t.Errorf("%+v", one)
	}
	in.Copies = 7
	seven, err := Laser(in)
	if err != nil || !quantity.Equal(seven.TotalS-one.TotalS, 6*light) {
		t.Errorf("seven copies: %+v (%v)", seven, err)
	}
	for path, change := range map[string]func(*LaserInput){"layers": func(in *LaserInput) { in.Layers = 0 }, "copies": func(in *LaserInput) { in.Copies = 0 }, "hatch_mm": func(in *LaserInput) { in.HatchMM = 0 },
		"contour_mm_s": func(in *LaserInput) { in.ContourMMS = 0 }, "settle_s": func(in *LaserInput) { in.SettleS = -1 }, "area_mm2_total": func(in *LaserInput) { in.AreaMM2Total = -1 }} {
		bad := in
		change(&bad)
		_, err := Laser(bad)
		wantPath(t, err, path)
	}
}

func TestOneCopyAndAFullPlateAreDifferentContests(t *testing.T) {
	laser, masked := Load{FixedS: 600, PerCopyS: 900, Capacity: 12}, Load{FixedS: 5400, PerCopyS: 0, Capacity: 12}
	got, err := Fill(FillInput{A: laser, B: masked, Copies: 12})
	if err != nil {
		t.Fatal(err)
	}
	// 600 + 900n passes 5,400 after the fifth copy; at 6 the masked machine is faster.
	if got.Crossover == nil || *got.Crossover != 6 || !quantity.Equal(got.AS, 600+12*900) || !quantity.Equal(got.BS, 5400) || got.RatioOne >= 1 || got.RatioFull <= 1 {
		t.Errorf("%+v", got)
	}
	// The thirteenth copy needs another plate of the masked machine.
	more, err := Fill(FillInput{A: laser, B: masked, Copies: 13})
	if err != nil || !quantity.Equal(more.BS, 10800) || !quantity.Equal(more.AS, 2*600+13*900) {
		t.Errorf("%+v (%v)", more, err)
	}
	alike, err := Fill(FillInput{A: masked, B: masked, Copies: 3})
	if err != nil || alike.Crossover != nil || alike.Ratio != 1 {
		t.Errorf("alike: %+v (%v)", alike, err)
	}
	_, err = Fill(FillInput{A: masked, B: Load{FixedS: 1, Capacity: 0}, Copies: 1})
	wantPath(t, err, "b.capacity")
	_, err = Fill(FillInput{A: masked, B: laser})
	wantPath(t, err, "copies")
}

func TestAHeadlineIsHeldAgainstALayer(t *testing.T) {
	got, err := Headline(HeadlineInput{LayerUM: 50, ClaimedMMH: 100, MeasuredLayerS: p(6.0), ExposureS: p(1.8)})
	if err != nil || !quantity.Equal(got.ImpliedLayerS, 1.8) || !quantity.Equal(*got.MeasuredMMH, 30) || !quantity.Equal(*got.Share, 0.3) || got.Has("cannot_be") {
		t.Errorf("%+v (%v)", got, err)
	}
	if got, err := Headline(HeadlineInput{LayerUM: 50, ClaimedMMH: 100, ExposureS: p(1.81)}); err != nil || !got.Has("cannot_be") || got.Share != nil || got.MeasuredMMH != nil {
		t.Errorf("shorter than its light: %+v (%v)", got, err)
	}
	_, err = Headline(HeadlineInput{LayerUM: 50})
	wantPath(t, err, "claimed_mm_h")
}
