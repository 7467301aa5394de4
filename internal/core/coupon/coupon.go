// Package coupon makes test coupons as closed bodies and says what can be read
// on them: ladders of solids and voids, sizes for calipers, steps, strokes and
// fits. The design and its layout are this project's own.
package coupon

import (
	"fmt"

	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Params chooses what a coupon carries; all sizes in mm. A ladder that is
// empty is left out. Sizes rise; each ladder has at most 12 rungs of 0.02 to
// 5 mm.
type Params struct {
	Number       int64     `json:"number"`        // raised on the coupon; 0 leaves it out
	PostsMM      []float64 `json:"posts_mm"`      // diameters of round posts
	WallsMM      []float64 `json:"walls_mm"`      // thicknesses of free walls
	SlotsMM      []float64 `json:"slots_mm"`      // widths of slots through a bar
	HolesMM      []float64 `json:"holes_mm"`      // diameters of holes through a bar
	StrokesMM    []float64 `json:"strokes_mm"`    // widths of raised and of engraved strokes
	ClearancesMM []float64 `json:"clearances_mm"` // diameter of a socket less that of the peg
	Calipers     bool      `json:"calipers"`      // a block with a pocket
	Staircase    bool      `json:"staircase"`
	Ramp         bool      `json:"ramp"` // 45°
	Dome         bool      `json:"dome"`
	// BarMM is the thickness of a bar for bending, PlaqueMM that of a plaque to look through;
	// 0 leaves them out. Each is a piece of its own: nothing else is on it.
	BarMM    float64 `json:"bar_mm,omitempty"`
	PlaqueMM float64 `json:"plaque_mm,omitempty"`
}

// Defaults is a coupon that answers most questions on a machine of 20 to 50 µm
// pitch.
func Defaults() Params {
	return Params{
		Number:  1,
		PostsMM: []float64{0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.7}, WallsMM: []float64{0.08, 0.12, 0.16, 0.2, 0.25, 0.3, 0.4},
		SlotsMM: []float64{0.08, 0.12, 0.16, 0.2, 0.25, 0.3, 0.4}, HolesMM: []float64{0.2, 0.3, 0.4, 0.5, 0.6, 0.8},
		StrokesMM: []float64{0.1, 0.15, 0.2, 0.3, 0.4}, ClearancesMM: []float64{0.02, 0.05, 0.1, 0.15, 0.2},
		Calipers: true, Staircase: true, Ramp: true, Dome: true,
	}
}

// Feature is something that can be read on the coupon. Kind is dimension,
// pins (solids: the smallest that stands), gaps (voids: the smallest that is
// open) or checkpoint; Shape says what the rungs are.
type Feature struct {
	Kind      string
	Shape     string
	Name      string
	NominalMM float64
	Axis      string
	Face      string // outer or inner, of a dimension
	RungsMM   []float64
	Place     string
}

// Coupon is the bodies, standing on z = 0 with a corner at the origin, and
// what can be read on them. With the orientation mark, the cut corner, at the
// back right, rows run from the front and rungs from left to right.
type Coupon struct {
	Triangles []mesh.Triangle
	Features  []Feature
	SizeMM    [3]float64
}

const (
	mostRungs               = 12
	leastRungMM, mostRungMM = 0.02, 5
	mostNumber              = 9999

	baseMM   = 2.0  // thickness of the base
	sunkMM   = 0.02 // how deep bodies reach into what carries them
	gapMM    = 3.0  // between sections
	edgeMM   = 2.0
	cutMM    = 4.0 // the cut corner
	tallMM   = 4.0 // posts and walls
	barMM    = 3.0 // height of bars with voids
	figureMM = 0.8 // height of the raised number
)

// Make builds a coupon. Errors name the field of Params.
func Make(p Params) (Coupon, error) {
	if err := check(p); err != nil {
		return Coupon{}, err
	}
	sections := sectionsOf(p)
	if p.BarMM > 0 || p.PlaqueMM > 0 {
		return alone(p, len(sections) > 0)
	}
	if len(sections) == 0 {
		return Coupon{}, quantity.Errorf("posts_mm", "and all other ladders are empty, so the coupon would carry nothing; choose at least one")
	}
	if p.Number > 0 {
		sections = append(sections, figuresSection(p.Number))
	}
	var b builder
	width, depth := b.lay(sections)
	return b.finish(width, depth, len(p.ClearancesMM) > 0), nil
}

func check(p Params) error {
	var c quantity.Checks
	for _, l := range []struct {
		name  string
		sizes []float64
	}{{"posts_mm", p.PostsMM}, {"walls_mm", p.WallsMM}, {"slots_mm", p.SlotsMM}, {"holes_mm", p.HolesMM}, {"strokes_mm", p.StrokesMM}, {"clearances_mm", p.ClearancesMM}} {
		if len(l.sizes) > mostRungs {
			c.Fail(l.name, "has %d sizes; a ladder carries up to %d", len(l.sizes), mostRungs)
		}
		if len(l.sizes) == 1 {
			c.Fail(l.name, "has one size; a ladder needs at least 2")
		}
		for i, v := range l.sizes {
			at := fmt.Sprintf("%s[%d]", l.name, i)
			if !(v >= leastRungMM && v <= mostRungMM) {
				c.Fail(at, "is %s mm; sizes lie between %s and %d mm", say.Figures(v, 6), say.Figures(leastRungMM, 6), mostRungMM)
			} else if i > 0 && !(v > l.sizes[i-1]) {
				c.Fail(at, "is %s mm, not above the size before it; sizes rise", say.Figures(v, 6))
			}
		}
	}
	if p.Number < 0 || p.Number > mostNumber {
		c.Fail("number", "is %d; coupons are numbered up to %d", p.Number, mostNumber)
	}
	return c.Err()
}
