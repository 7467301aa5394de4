// Package coupon makes test coupons as closed bodies and says what can be read
// on them: ladders of solids and voids, sizes for calipers, steps, strokes and
// fits. The design and its layout are this project's own.
package coupon

import (
	"fmt"
	"math"
	"strconv"

	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
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
	Side      string
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
	rowGapMM = 3.0
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
	b := builder{y: edgeMM}
	b.posts(p.PostsMM)
	b.walls(p.WallsMM)
	b.voids("slots", p.SlotsMM)
	b.voids("holes", p.HolesMM)
	b.strokes(p.StrokesMM)
	b.shapes(p)
	b.sockets(p.ClearancesMM)
	b.figures(p.Number)
	if b.y == edgeMM {
		return Coupon{}, quantity.Errorf("posts_mm", "and all other ladders are empty, so the coupon would carry nothing; choose at least one")
	}
	return b.finish(len(p.ClearancesMM) > 0), nil
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
				c.Fail(at, "is %g mm; sizes lie between %g and %d mm", v, leastRungMM, mostRungMM)
			} else if i > 0 && !(v > l.sizes[i-1]) {
				c.Fail(at, "is %g mm, not above the size before it; sizes rise", v)
			}
		}
	}
	if p.Number < 0 || p.Number > mostNumber {
		c.Fail("number", "is %d; coupons are numbered up to %d", p.Number, mostNumber)
	}
	return c.Err()
}

// builder lays rows on the base, from the front backwards.
type builder struct {
	solid
	y, right float64
	features []Feature
}

// row ends a row of a depth that reached to x.
func (b *builder) row(x, depth float64) {
	b.y += depth + rowGapMM
	b.right = math.Max(b.right, x+edgeMM)
}

func (b *builder) ladder(kind, shape, name string, sizes []float64, place string) {
	b.features = append(b.features, Feature{Kind: kind, Shape: shape, Name: name, RungsMM: sizes, Place: place})
}

func (b *builder) dimension(name, axis, side string, nominal float64, place string) {
	b.features = append(b.features, Feature{Kind: "dimension", Name: name, NominalMM: nominal, Axis: axis, Side: side, Place: place})
}

func (b *builder) posts(sizes []float64) {
	if len(sizes) == 0 {
		return
	}
	x, widest := edgeMM, sizes[len(sizes)-1]
	for _, d := range sizes {
		b.prism(circle(x+d/2, b.y+widest/2, d), baseMM-sunkMM, baseMM+tallMM)
		x += d + 2.2
	}
	b.ladder("pins", "post", "Posts", sizes, "round, 4 mm tall, thinnest at the left")
	b.row(x-2.2, widest)
}

func (b *builder) walls(sizes []float64) {
	if len(sizes) == 0 {
		return
	}
	const length = 4.0
	x := edgeMM
	for _, w := range sizes {
		b.prism(rectangle(x, b.y, w, length), baseMM-sunkMM, baseMM+tallMM)
		x += w + 2.2
	}
	b.ladder("pins", "wall", "Walls", sizes, "free, 4 mm tall, thinnest at the left")
	b.row(x-2.2, length)
}

// voids is a bar with slots or holes through it, down to the base.
func (b *builder) voids(shape string, sizes []float64) {
	if len(sizes) == 0 {
		return
	}
	const between = 2.0
	depth := 5.0
	if shape == "holes" {
		depth = sizes[len(sizes)-1] + 2*between
	}
	x := edgeMM
	var ends []float64
	var wells []loop
	for _, w := range sizes {
		middle := x + between/2 + w/2
		if shape == "slots" {
			wells = append(wells, rectangle(middle-w/2, b.y+1, w, depth-2))
		} else {
			wells = append(wells, circle(middle, b.y+depth/2, w))
		}
		x += w + between
		ends = append(ends, x)
	}
	b.bar(edgeMM, b.y, depth, baseMM-sunkMM, baseMM+barMM, ends, wells)
	if shape == "slots" {
		b.ladder("gaps", "slot", "Slots", sizes, "through a bar 3 mm deep, narrowest at the left")
	} else {
		b.ladder("gaps", "hole", "Holes", sizes, "through a bar 3 mm deep, narrowest at the left")
		b.dimension("Hole bar length", "x", "outer", x-edgeMM, "the bar with the holes, left to right")
	}
	b.row(x, depth)
}

// strokes is a tile with raised strokes at the left and engraved ones beside.
func (b *builder) strokes(sizes []float64) {
	if len(sizes) == 0 {
		return
	}
	const (
		tile, deep, between = 1.0, 0.3, 1.4
		depth, length       = 5.0, 3.0
	)
	top := baseMM + tile
	x := edgeMM + between/2
	for _, w := range sizes {
		b.prism(rectangle(x, b.y+1, w, length), top-sunkMM, top+deep)
		x += w + between
	}
	split := x - between/2
	x = split
	var ends []float64
	var wells []loop
	for _, w := range sizes {
		wells = append(wells, rectangle(x+between/2, b.y+1, w, length))
		x += w + between
		ends = append(ends, x)
	}
	b.prism(rectangle(edgeMM, b.y, split-edgeMM+sunkMM, depth), baseMM-sunkMM, top)
	b.prism(rectangle(split, b.y, x-split, depth), baseMM-sunkMM, top-deep)
	b.bar(split, b.y, depth, top-deep-sunkMM, top, ends, wells)
	b.ladder("pins", "raised stroke", "Raised strokes", sizes, "0.3 mm high, on the left half of the tile")
	b.ladder("gaps", "engraved stroke", "Engraved strokes", sizes, "0.3 mm deep, on the right half of the tile")
	b.row(x, depth)
}

// shapes is the row of what calipers and eyes read.
func (b *builder) shapes(p Params) {
	x, depth := edgeMM, 0.0
	take := func(width, deep float64) (at float64) {
		at, x, depth = x, x+width+rowGapMM, math.Max(depth, deep)
		return at
	}
	if p.Calipers {
		at := take(12, 9)
		b.bar(at, b.y, 9, baseMM-sunkMM, baseMM+5, []float64{at + 12}, []loop{rectangle(at+3, b.y+2.5, 6, 4)})
		b.dimension("Block length", "x", "outer", 12, "the block with the pocket")
		b.dimension("Block depth", "y", "outer", 9, "the block with the pocket")
		b.dimension("Block height", "z", "outer", baseMM+5, "from the underside of the base")
		b.dimension("Pocket length", "x", "inner", 6, "the pocket in the block")
		b.dimension("Pocket depth", "y", "inner", 4, "the pocket in the block")
	}
	if p.Staircase {
		b.staircase(take(9, 6))
	}
	if p.Ramp {
		at := take(5, 5)
		b.extruded([]corner{{at, baseMM - sunkMM}, {at, baseMM}, {at + 5, baseMM + 5}, {at + 5, baseMM - sunkMM}}, b.y, 5)
		b.features = append(b.features, Feature{Kind: "checkpoint", Name: "Ramp even", Place: "45° face, seen along the light"})
	}
	if p.Dome {
		at := take(9, 9)
		b.dome(at+4.5, b.y+4.5, 8, 8-math.Sqrt(64-4.5*4.5), baseMM-sunkMM, baseMM)
		b.features = append(b.features, Feature{Kind: "checkpoint", Name: "Dome without rings", Place: "spherical cap of radius 8 mm"})
	}
	if depth > 0 {
		b.row(x-rowGapMM, depth)
	}
}

// staircase rises by 0.5 mm a step.
func (b *builder) staircase(x float64) {
	const steps, rise, run, depth = 6, 0.5, 1.5, 6.0
	profile := []corner{{x, baseMM - sunkMM}}
	for i := range steps {
		at := x + run*float64(i)
		high := baseMM + rise*float64(i+1)
		profile = append(profile, corner{at, high}, corner{at + run, high})
	}
	b.extruded(append(profile, corner{x + run*steps, baseMM - sunkMM}), b.y, depth)
	b.dimension("Staircase depth", "y", "outer", depth, "the staircase, front to back")
	b.dimension("Staircase height", "z", "outer", baseMM+rise*steps, "from the underside of the base to the top step")
	b.features = append(b.features, Feature{Kind: "checkpoint", Name: "All six steps distinct", Place: "staircase, 0.5 mm a step"})
}

// pegMM is the diameter of the loose peg that is tried in the sockets.
const pegMM = 3.0

func (b *builder) sockets(clearances []float64) {
	if len(clearances) == 0 {
		return
	}
	const between = 2.0
	depth := pegMM + clearances[len(clearances)-1] + 2*between
	x := edgeMM
	var ends []float64
	var wells []loop
	for _, c := range clearances {
		wells = append(wells, circle(x+between/2+(pegMM+c)/2, b.y+depth/2, pegMM+c))
		x += pegMM + c + between
		ends = append(ends, x)
	}
	b.bar(edgeMM, b.y, depth, baseMM-sunkMM, baseMM+barMM, ends, wells)
	b.ladder("gaps", "fit", "Peg fits", clearances, "the loose 3.00 mm peg in each socket, tightest at the left")
	b.row(x, depth)
}

// segments of a figure: which of the seven bars are raised.
var figures = [10]string{"abcdef", "bc", "abged", "abgcd", "fgbc", "afgcd", "afgcde", "abc", "abcdefg", "abcdfg"}

// bars of a figure 3 × 5 mm, as x, y, width, depth from its lower left corner.
var bars = map[rune][4]float64{
	'a': {0.7, 4.2, 1.6, 0.8}, 'b': {2.2, 2.7, 0.8, 1.6}, 'c': {2.2, 0.7, 0.8, 1.6}, 'd': {0.7, 0, 1.6, 0.8},
	'e': {0, 0.7, 0.8, 1.6}, 'f': {0, 2.7, 0.8, 1.6}, 'g': {0.7, 2.1, 1.6, 0.8},
}

// figures raises the number, in a row of its own at the back.
func (b *builder) figures(number int64) {
	if number == 0 || b.y == edgeMM {
		return
	}
	x := edgeMM
	for _, digit := range strconv.FormatInt(number, 10) {
		for _, name := range figures[digit-'0'] {
			r := bars[name]
			b.prism(rectangle(x+r[0], b.y+r[1], r[2], r[3]), baseMM-sunkMM, baseMM+figureMM)
		}
		x += 4
	}
	b.row(x+cutMM, 5)
}

// finish puts the base under everything, its back right corner cut, and the
// loose peg beside it.
func (b *builder) finish(peg bool) Coupon {
	w, d := b.right, b.y-rowGapMM+edgeMM
	b.prism(loop{{0, 0}, {w, 0}, {w, d - cutMM}, {w - cutMM, d}, {0, d}}, 0, baseMM)
	if peg {
		// A foot to hold it by, standing clear of the base.
		x := w + 3
		b.prism(rectangle(x, 0, 7, 7), 0, baseMM)
		b.prism(circle(x+3.5, 3.5, pegMM), baseMM-sunkMM, baseMM+6)
		b.features = append(b.features, Feature{Kind: "dimension", Name: "Peg diameter", NominalMM: pegMM, Axis: "x", Side: "outer", Place: "the loose peg, left to right"})
		w = x + 7
	}
	out := Coupon{Triangles: b.triangles, Features: b.features, SizeMM: [3]float64{w, d, 0}}
	for _, t := range out.Triangles {
		for _, v := range t {
			out.SizeMM[2] = math.Max(out.SizeMM[2], float64(v[2]))
		}
	}
	return out
}
