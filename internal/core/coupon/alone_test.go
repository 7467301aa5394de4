package coupon

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"ojime/internal/core/mesh"
)

// A bar and a plaque are closed solids of their stated size, with what is read on them.
func TestABarAndAPlaqueStandAlone(t *testing.T) {
	for _, c := range []struct {
		params   Params
		size     [3]float64
		ml       float64
		features string
	}{
		{Params{BarMM: 4}, [3]float64{80, 10, 4}, 3.2, "dimension Width y 10; dimension Thickness z 4; "},
		{Params{PlaqueMM: 2}, [3]float64{30, 30, 2}, (900 - 8) * 2 / 1000.0, "dimension Thickness z 2; gaps Lines told apart through it  0; "},
	} {
		made, err := Make(c.params)
		if err != nil {
			t.Fatal(err)
		}
		m := mesh.Measure(&mesh.Mesh{Triangles: made.Triangles})
		if made.SizeMM != c.size || m.OpenEdges != 0 || math.Abs(m.SignedVolumeML-c.ml) > 1e-6 {
			t.Errorf("%+v: %v, %d open edges, %v ml", c.params, made.SizeMM, m.OpenEdges, m.SignedVolumeML)
		}
		got := ""
		for _, f := range made.Features {
			got += fmt.Sprintf("%s %s %s %v; ", f.Kind, f.Name, f.Axis, f.NominalMM)
		}
		if got != c.features {
			t.Errorf("%q, want %q", got, c.features)
		}
	}
}

func TestABarIsRefusedBesideAnythingElse(t *testing.T) {
	for at, p := range map[string]Params{
		"bar_mm":    {BarMM: 9},
		"plaque_mm": {PlaqueMM: 0.1},
		"bar_mm:":   {BarMM: 4, Dome: true},
	} {
		if _, err := Make(p); err == nil || !strings.HasPrefix(err.Error(), at) {
			t.Errorf("%+v: %v", p, err)
		}
	}
	if _, err := Make(Params{BarMM: 4, PlaqueMM: 2}); err == nil || !strings.HasPrefix(err.Error(), "plaque_mm") {
		t.Errorf("both at once: %v", err)
	}
}

func TestTheLineScaleHasItsLines(t *testing.T) {
	svg := LineScale()
	if n := strings.Count(svg, `height="50"/>`); n != 5*len(LineWidthsMM) {
		t.Errorf("%d lines", n)
	}
	for _, want := range []string{`width="0.15" height="50"`, `width="148mm"`, "M10 95H110"} {
		if !strings.Contains(svg, want) {
			t.Errorf("%s is missing", want)
		}
	}
}
