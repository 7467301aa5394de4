package stack

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// SolidInput is a stack with the pitch of the panel's pixels along the rows and across them in µm
// > 0, and the layer height in µm > 0.
type SolidInput struct {
	Layers   []Layer
	PitchXUM float64
	PitchYUM float64
	LayerUM  float64
}

// Solid is what a stack comes to on a machine. Volume is Σ lit area × layer height; outlines run
// along the sides of pixels, which is up to 4/π longer than the drawn outline where that runs
// askew. An extent is 0 where nothing is lit.
type Solid struct {
	HeightMM float64 `json:"height_mm"`
	VolumeML float64 `json:"volume_ml"`
	// LargestMM2 is the largest lit area of a layer, and LargestLayer that layer, from 1.
	LargestMM2   float64 `json:"largest_mm2"`
	LargestLayer int     `json:"largest_layer"`
	WidthMM      float64 `json:"width_mm"`
	DepthMM      float64 `json:"depth_mm"`
	// GreyPct is the share of grey pixels in the lit area, in %: 0 without anti-aliasing.
	GreyPct float64 `json:"grey_pct"`
	// Dark are layers in which nothing is lit, from 1.
	Dark []int `json:"dark"`
	// Islands are the layers with regions that nothing holds, from 1.
	Islands []Island `json:"islands"`
	// Areas in mm² and Outlines in mm are those of the layers in order.
	Areas    []float64 `json:"areas_mm2"`
	Outlines []float64 `json:"outlines_mm"`
}

// Island are the regions of a layer of which nothing lies over the layer before.
type Island struct {
	Layer   int     `json:"layer"`
	AtMM    float64 `json:"at_mm"`
	Regions int     `json:"regions"`
	// LargestMM2 is the area of the largest of them.
	LargestMM2 float64 `json:"largest_mm2"`
}

// SolidOf works out what a stack comes to on a machine.
func SolidOf(in SolidInput) (Solid, error) {
	var c quantity.Checks
	c.Above("pitch_x_um", in.PitchXUM)
	c.Above("pitch_y_um", in.PitchYUM)
	c.Above("layer_um", in.LayerUM)
	if err := c.Err(); err != nil {
		return Solid{}, err
	}
	out := Solid{HeightMM: float64(len(in.Layers)) * in.LayerUM / 1000, Dark: []int{}, Islands: []Island{}, Areas: make([]float64, len(in.Layers)), Outlines: make([]float64, len(in.Layers))}
	x, y := in.PitchXUM/1000, in.PitchYUM/1000
	var lit, grey float64
	extent := Layer{X0: math.MaxInt, Y0: math.MaxInt}
	for i, l := range in.Layers {
		out.Areas[i] = l.LitPX * x * y
		out.Outlines[i] = float64(l.AcrossSides)*x + float64(l.AlongSides)*y
		lit, grey = lit+l.LitPX, grey+float64(l.GreyPX)
		if out.Areas[i] > out.LargestMM2 {
			out.LargestMM2, out.LargestLayer = out.Areas[i], i+1
		}
		if l.X1 == 0 {
			out.Dark = append(out.Dark, i+1)
			continue
		}
		extent = Layer{X0: min(extent.X0, l.X0), X1: max(extent.X1, l.X1), Y0: min(extent.Y0, l.Y0), Y1: max(extent.Y1, l.Y1)}
		if l.Islands > 0 {
			out.Islands = append(out.Islands, Island{Layer: i + 1, AtMM: float64(i) * in.LayerUM / 1000, Regions: l.Islands, LargestMM2: float64(l.IslandPX) * x * y})
		}
	}
	out.VolumeML = lit * x * y * in.LayerUM / 1e6
	if lit > 0 {
		out.GreyPct = 100 * grey / lit
		out.WidthMM, out.DepthMM = float64(extent.X1-extent.X0)*x, float64(extent.Y1-extent.Y0)*y
	}
	return out, nil
}

// Expected is what is on record of the print that a stack was made for; nil where it is not known.
type Expected struct {
	Machine  string
	WidthPX  *int64
	HeightPX *int64
	LayerUM  *float64
	// HeightMM is that of the tallest piece as it lies, without supports; VolumeML that of all
	// pieces, without supports.
	HeightMM *float64
	VolumeML *float64
	Settings []Setting
}

// Setting is a value of the settings on record, by its field; nil where it is not known.
type Setting struct {
	Field string
	Label string
	Unit  string
	Value *float64
}

// Compared is one thing that the stack says beside what is on record. Agrees is nil where one of
// the two is not known.
type Compared struct {
	What     string `json:"what"`
	Stack    string `json:"stack"`
	OnRecord string `json:"on_record"`
	Agrees   *bool  `json:"agrees"`
	// Why says what a difference, or the lack of an answer, means.
	Why string `json:"why"`
}

// heightSlack is by how much of a layer a print may be lower than its tallest piece: the last
// layer is cut or kept by the program that slices.
const heightSlack = 1.0

// Against sets a stack and the settings found in it against what is on record.
func Against(s Stack, solid Solid, layerUM float64, found []Found, twice []string, e Expected) []Compared {
	out := []Compared{}
	add := func(what, stack, onRecord string, agrees bool, why string) {
		c := Compared{What: what, Stack: stack, OnRecord: onRecord, Agrees: &agrees}
		if !agrees {
			c.Why = why
		}
		out = append(out, c)
	}
	if e.WidthPX != nil && e.HeightPX != nil {
		w, h := int(*e.WidthPX), int(*e.HeightPX)
		straight, turned := s.WidthPX == w && s.HeightPX == h, s.WidthPX == h && s.HeightPX == w
		add("pixels of a layer", px(s.WidthPX, s.HeightPX), px(w, h), straight || turned, "It was sliced for another panel than that of "+e.Machine+", so its sizes here are wrong.")
	}
	if f := field(found, "layers"); f != nil {
		add("layers", fmt.Sprint(len(s.Layers)), say.Whole(f.Value)+" in the file's own settings", f.Value == float64(len(s.Layers)), "Pictures are missing from the file, or are not of this print.")
	}
	if e.HeightMM != nil {
		lower := *e.HeightMM - solid.HeightMM
		why := fmt.Sprintf("The print is %s mm lower than its tallest piece: it is cut off, lies otherwise, or is sliced at another layer height.", say.Figure(lower))
		add("height", say.Figures(solid.HeightMM, 4)+" mm", say.Figures(*e.HeightMM, 4)+" mm without supports", lower <= heightSlack*layerUM/1000, why)
	}
	if e.VolumeML != nil {
		less := solid.VolumeML < *e.VolumeML*0.9
		add("volume", say.Figure(solid.VolumeML)+" ml", say.Figure(*e.VolumeML)+" ml without supports", !less, "It holds over a tenth less than its pieces: some are missing, hollowed or scaled.")
	}
	for _, set := range e.Settings {
		if c, said := set.beside(found, twice); said {
			out = append(out, c)
		}
	}
	return out
}

func px(w, h int) string { return fmt.Sprintf("%d × %d", w, h) }

func field(found []Found, name string) *Found {
	for i := range found {
		if found[i].Field == name {
			return &found[i]
		}
	}
	return nil
}

// beside sets one setting against what was found; said is false where neither is known.
func (s Setting) beside(found []Found, twice []string) (c Compared, said bool) {
	c.What = s.Label
	words := func(v float64) string { return say.Figures(v, 6) + s.Unit }
	if s.Value != nil {
		c.OnRecord = words(*s.Value)
	}
	f := field(found, s.Field)
	switch {
	case f == nil:
		for _, name := range twice {
			if name == s.Field {
				c.Why = "The file says it twice, with different values."
				return c, true
			}
		}
		c.Why = "The file does not say it."
		return c, s.Value != nil
	case s.Value == nil:
		c.Stack, c.Why = words(f.Value), "Not on record."
		return c, true
	}
	agrees := quantity.Equal(f.Value, *s.Value)
	c.Stack, c.Agrees = words(f.Value), &agrees
	if f.Guessed != "" {
		c.Why = fmt.Sprintf("%s = %s, %s.", f.Name, f.Text, f.Guessed)
	}
	return c, true
}
