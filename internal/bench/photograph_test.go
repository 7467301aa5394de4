package bench

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

// The scale that was set last gives every measure its size, whichever came first; without one
// sizes stand in pixels, and what was taken back is gone.
func TestMeasuresTakeTheLastScale(t *testing.T) {
	p := Photograph{ID: "h", Code: "H-001", Blur: 0.9}
	scale := func(id string, mm float64) PhotoMeasure {
		return PhotoMeasure{ID: id, PhotographID: "h", Kind: "scale", KnownMM: &mm, KnownUMM: quantity.Ptr(0.0), SizePX: 100, N: 1}
	}
	edge := PhotoMeasure{ID: "e", PhotographID: "h", Kind: "edge", SizePX: 20, UPX: 0.1, RipplePX: quantity.Ptr(2.0), N: 30}
	other := PhotoMeasure{ID: "x", PhotographID: "another", Kind: "length", SizePX: 7, N: 1}
	gone := scale("c", 9)
	gone.TakenBackMS = quantity.Ptr(int64(1))
	for name, c := range map[string]struct {
		all    []PhotoMeasure
		sizeMM float64
	}{
		"no scale":          {[]PhotoMeasure{edge, other}, 0},
		"a scale after":     {[]PhotoMeasure{edge, scale("a", 1), other}, 0.2},
		"two scales":        {[]PhotoMeasure{scale("a", 1), edge, scale("b", 2)}, 0.4},
		"one is taken back": {[]PhotoMeasure{scale("a", 1), edge, gone}, 0.2},
	} {
		got, err := p.WithMeasures(c.all)
		if err != nil || !got.Blurred {
			t.Fatalf("%s: %+v %v", name, got, err)
		}
		for _, m := range got.Measures {
			switch {
			case m.ID == "x" || m.ID == "c":
				t.Errorf("%s: %s is of another photograph, or taken back", name, m.ID)
			case m.Kind == "edge" && c.sizeMM == 0 && (m.SizeMM != nil || got.MMPerPX != nil):
				t.Errorf("%s: a size without a scale: %v", name, *m.SizeMM)
			case m.Kind == "edge" && c.sizeMM > 0 && (math.Abs(*m.SizeMM-c.sizeMM) > 1e-12 || math.Abs(*m.RippleMM-c.sizeMM/10) > 1e-12):
				t.Errorf("%s: %v mm, ripple %v mm", name, *m.SizeMM, *m.RippleMM)
			}
		}
	}
}

func TestWhatAStudyAndAPhotographMustSay(t *testing.T) {
	hash := strings.Repeat("a", 64)
	good := Photograph{SpecimenID: quantity.Ptr("s"), Station: "table", Stage: "raw", Light: "lamp", Kind: "jpeg", OriginalSHA256: hash, CopySHA256: hash, SmallSHA256: hash}
	if err := good.Check(); err != nil {
		t.Error(err)
	}
	short := good
	short.CopySHA256 = "copy.jpg"
	if err := short.Check(); err == nil || !strings.Contains(err.Error(), "copy_sha256") {
		t.Errorf("a file that is named by no hash: %v", err)
	}
	if (Instrument{Kind: "balance"}).Unit() != "g" || (Instrument{Kind: "caliper"}).Unit() != "mm" {
		t.Error("a balance weighs in grams, a caliper measures in millimetres")
	}
}
