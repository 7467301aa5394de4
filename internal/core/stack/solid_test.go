package stack

import (
	"math"
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestAStackComesToASolid(t *testing.T) {
	file := packed(t,
		entry{"1.png", grey("####......", "####......")},
		entry{"2.png", grey("####......", "####...+..")},
		entry{"3.png", grey("..........", "..........")},
	)
	s := readStack(t, file)
	got, err := SolidOf(SolidInput{Layers: s.Layers, PitchXUM: 50, PitchYUM: 40, LayerUM: 100})
	if err != nil {
		t.Fatal(err)
	}
	// 8 and 8.6 pixels of 0.002 mm² are 0.016 and 0.0172 mm²; times 0.1 mm is 0.00332 mm³.
	if math.Abs(got.VolumeML-0.00332/1000) > 1e-12 || math.Abs(got.HeightMM-0.3) > 1e-12 {
		t.Errorf("volume %v ml, height %v mm", got.VolumeML, got.HeightMM)
	}
	if got.LargestLayer != 2 || math.Abs(got.LargestMM2-0.0172) > 1e-12 || math.Abs(got.WidthMM-0.4) > 1e-12 || math.Abs(got.DepthMM-0.08) > 1e-12 {
		t.Errorf("largest %v in layer %d, extent %v × %v", got.LargestMM2, got.LargestLayer, got.WidthMM, got.DepthMM)
	}
	// Around 4 × 2 pixels: 8 sides of 50 µm, 4 of 40 µm.
	if math.Abs(got.Outlines[0]-0.56) > 1e-12 {
		t.Errorf("outline %v mm, want 0.56", got.Outlines[0])
	}
	if !slices.Equal(got.Dark, []int{3}) || len(got.Islands) != 1 || got.Islands[0].Layer != 2 || math.Abs(got.Islands[0].AtMM-0.1) > 1e-12 {
		t.Errorf("dark %v, islands %+v", got.Dark, got.Islands)
	}
	if _, err := SolidOf(SolidInput{Layers: s.Layers, PitchYUM: 40, LayerUM: 100}); err == nil || !strings.Contains(err.Error(), "pitch_x_um") {
		t.Errorf("without a pitch: %v", err)
	}
}

func TestNamesAreUnderstoodByTheirWords(t *testing.T) {
	for _, c := range []struct {
		name, text string
		field      string
		value      float64
		guessed    string
	}{
		{"Layer height (mm)", "0.05", "layer_um", 50, ""},
		{"layerHeight", "0.05", "layer_um", 50, "taken for mm"},
		{"layer_um", "50", "layer_um", 50, ""},
		{"slice thickness", "30 µm", "layer_um", 30, ""},
		{"exposure_s", "2.4", "exposure_s", 2.4, ""},
		{"Exposure time", "2,4 s", "exposure_s", 2.4, ""},
		{"exposure time ms", "2400", "exposure_s", 2.4, ""},
		{"cure", "2.4", "exposure_s", 2.4, "taken for seconds"},
		{"bottom exposure", "30 s", "bottom_exposure_s", 30, ""},
		{"First layers", "6", "bottom_layers", 6, ""},
		{"bottom_layer_count", "6", "bottom_layers", 6, ""},
		{"Transition layers", "4", "transition_layers", 4, ""},
		{"rest before exposure [s]", "0.5", "wait_before_s", 0.5, ""},
		{"rest after exposure [s]", "0.5", "wait_after_s", 0.5, ""},
		{"rest after lift s", "1", "wait_lift_s", 1, ""},
		{"Light power %", "80", "light_power_pct", 80, ""},
		{"total layers", "812", "layers", 812, ""},
		{"layers", "812", "layers", 812, ""},
	} {
		found, twice := Understand([]Pair{{Name: c.name, Value: c.text}})
		if len(found) != 1 || len(twice) != 0 || found[0].Field != c.field || !quantity.Equal(found[0].Value, c.value) || found[0].Guessed != c.guessed {
			t.Errorf("%s = %s: %+v, want %s %v %q", c.name, c.text, found, c.field, c.value, c.guessed)
		}
	}
}

func TestWhatIsNotSureIsNotUnderstood(t *testing.T) {
	for _, p := range []Pair{
		{Name: "light power", Value: "204"},   // of 100 or of 255
		{Name: "exposure", Value: "normal"},   // no number
		{Name: "exposure", Value: "2.4 mm"},   // no time
		{Name: "exposure", Value: "-2"},       // less than none
		{Name: "layers", Value: "12.5"},       // no count
		{Name: "light off delay", Value: "3"}, // no exposure
		{Name: "lift height", Value: "6 mm"},  // not of a layer
		{Name: "bottom lift height", Value: "6"},
		{Name: "exposure compensation", Value: "2"},
		{Name: "printer", Value: "12"},
	} {
		if found, _ := Understand([]Pair{p}); len(found) != 0 {
			t.Errorf("%s = %s is taken for %+v", p.Name, p.Value, found[0])
		}
	}
	found, twice := Understand([]Pair{{Name: "exposure", Value: "2 s"}, {Name: "cure s", Value: "2"}, {Name: "layer um", Value: "50"}, {Name: "slice um", Value: "40"}, {Name: "layer height um", Value: "50"}})
	if len(found) != 1 || found[0].Field != "exposure_s" || !slices.Equal(twice, []string{"layer_um"}) {
		t.Errorf("found %+v, twice %v", found, twice)
	}
}

func TestLinesOfATextArePairs(t *testing.T) {
	got := Pairs(Text{"s.txt", []byte("\ufeff; sliced\n[print]\nexposure = 2.4 ; \n\"layers\": 12,\nno pair\nname\tRook\n=5\n")})
	want := []Pair{{"exposure", "2.4", "s.txt"}, {"layers", "12", "s.txt"}, {"name", "Rook", "s.txt"}}
	if len(got) != 3 || !slices.Equal(got, want) {
		t.Errorf("%+v, want %+v", got, want)
	}
}

func FuzzUnderstand(f *testing.F) {
	f.Add("exposure: 2.4 s\nlayer height = 0.05")
	f.Add("\tµ%\n:::")
	f.Fuzz(func(t *testing.T, text string) {
		found, _ := Understand(Pairs(Text{"a", []byte(text)}))
		for _, v := range found {
			if math.IsNaN(v.Value) || math.IsInf(v.Value, 0) || v.Value < 0 {
				t.Fatalf("%q is understood as %+v", text, v)
			}
		}
	})
}

func TestAStackStandsBesideWhatIsOnRecord(t *testing.T) {
	n := func(v float64) *float64 { return &v }
	size := func(v int64) *int64 { return &v }
	s := Stack{WidthPX: 1000, HeightPX: 2000, Layers: make([]Layer, 100)}
	solid := Solid{HeightMM: 5, VolumeML: 10}
	found := []Found{{Field: "exposure_s", Value: 2.4}, {Field: "layers", Value: 101}, {Field: "layer_um", Value: 50, Name: "layer height", Text: "0.05", Guessed: "taken for mm"}, {Field: "wait_after_s", Value: 1}}
	got := Against(s, solid, 50, found, []string{"bottom_layers"}, Expected{
		Machine: "Harrow", WidthPX: size(2000), HeightPX: size(1000), LayerUM: n(50), HeightMM: n(5.04), VolumeML: n(11.2),
		Settings: []Setting{{"layer_um", "layer height", " µm", n(50)}, {"exposure_s", "exposure", " s", n(2.5)}, {"bottom_layers", "bottom layers", "", n(6)}, {"wait_after_s", "wait after exposure", " s", nil}, {"wait_before_s", "wait before exposure", " s", n(1)}, {"light_power_pct", "light power", " %", nil}},
	})
	says := []string{}
	for _, c := range got {
		agrees := "not known"
		if c.Agrees != nil && *c.Agrees {
			agrees = "agrees"
		} else if c.Agrees != nil {
			agrees = "differs"
		}
		says = append(says, c.What+": "+c.Stack+" | "+c.OnRecord+" | "+agrees)
	}
	want := []string{
		"pixels of a layer: 1000 × 2000 | 2000 × 1000 | agrees",
		"layers: 100 | 101 in the file's own settings | differs",
		"height: 5 mm | 5.04 mm without supports | agrees",
		"volume: 10 ml | 11.2 ml without supports | differs",
		"layer height: 50 µm | 50 µm | agrees",
		"exposure: 2.4 s | 2.5 s | differs",
		"bottom layers:  | 6 | not known",
		"wait after exposure: 1 s |  | not known",
		"wait before exposure:  | 1 s | not known",
	}
	if !slices.Equal(says, want) {
		t.Errorf("got\n%s\nwant\n%s", strings.Join(says, "\n"), strings.Join(want, "\n"))
	}
	if got[6].Why != "The file says it twice, with different values." || got[4].Why != "layer height = 0.05, taken for mm." {
		t.Errorf("why: %q, %q", got[6].Why, got[4].Why)
	}
}

// A print may end up to a layer below its tallest piece, and hold up to a tenth less.
func TestHowFarAStackMayFallShort(t *testing.T) {
	for _, c := range []struct {
		what             string
		heightMM, volume float64
		agrees           bool
	}{{"height", 5.05, 10, true}, {"height", 5.06, 10, false}, {"height", 4, 10, true}, {"volume", 5, 11.1, true}, {"volume", 5, 11.2, false}, {"volume", 5, 4, true}} {
		got := Against(Stack{Layers: make([]Layer, 100)}, Solid{HeightMM: 5, VolumeML: 10}, 50, nil, nil, Expected{HeightMM: &c.heightMM, VolumeML: &c.volume})
		for _, row := range got {
			if row.What == c.what && *row.Agrees != c.agrees {
				t.Errorf("%s beside %v mm and %v ml: agrees %v", c.what, c.heightMM, c.volume, *row.Agrees)
			}
		}
	}
}
