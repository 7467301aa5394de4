package coupon

import (
	"math"
	"strconv"
)

// section is one ladder or shape: the room it takes and how it is built from
// its front left corner.
type section struct {
	width, depth float64
	build        func(b *builder, x, y float64)
}

// builder gathers bodies and what can be read on them.
type builder struct {
	solid
	features []Feature
}

func (b *builder) ladder(kind, shape, name string, sizes []float64, place string) {
	b.features = append(b.features, Feature{Kind: kind, Shape: shape, Name: name, RungsMM: sizes, Place: place})
}

func (b *builder) dimension(name, axis, face string, nominal float64, place string) {
	b.features = append(b.features, Feature{Kind: "dimension", Name: name, NominalMM: nominal, Axis: axis, Face: face, Place: place})
}

func (b *builder) checkpoint(name, place string) {
	b.features = append(b.features, Feature{Kind: "checkpoint", Name: name, Place: place})
}

// sectionsOf lists what a coupon carries, from the front.
func sectionsOf(p Params) []section {
	var out []section
	add := func(wanted bool, s section) {
		if wanted {
			out = append(out, s)
		}
	}
	add(len(p.PostsMM) > 0, posts(p.PostsMM))
	add(len(p.SlotsMM) > 0, slots(p.SlotsMM))
	add(len(p.WallsMM) > 0, walls(p.WallsMM))
	add(len(p.HolesMM) > 0, holes(p.HolesMM))
	add(len(p.StrokesMM) > 0, strokes(p.StrokesMM))
	add(p.Calipers, block())
	add(p.Staircase, staircase())
	add(p.Ramp, ramp())
	add(p.Dome, dome())
	add(len(p.ClearancesMM) > 0, sockets(p.ClearancesMM))
	return out
}

// lay puts sections in rows from the front, each row filled from the left up to
// about the width of a square of the same area, and gives the size of the base.
func (b *builder) lay(sections []section) (width, depth float64) {
	var area, widest float64
	for _, s := range sections {
		area += (s.width + gapMM) * (s.depth + gapMM)
		widest = math.Max(widest, s.width)
	}
	room := math.Max(widest, 1.25*math.Sqrt(area))
	x, y, deep := edgeMM, edgeMM, 0.0
	for i, s := range sections {
		if x > edgeMM && x+s.width > edgeMM+room {
			x, y, deep = edgeMM, y+deep+gapMM, 0
		}
		s.build(b, x, y)
		right := x + s.width + edgeMM
		if i == len(sections)-1 {
			right += cutMM // the cut corner is at the end of the last row
		}
		width = math.Max(width, right)
		x, deep = x+s.width+gapMM, math.Max(deep, s.depth)
	}
	return width, math.Max(y+deep+edgeMM, cutMM+edgeMM)
}

// sum of the sizes of a ladder with a distance between them.
func spread(sizes []float64, between float64) (width float64) {
	for _, v := range sizes {
		width += v + between
	}
	return width - between
}

const freeMM = 2.2 // between posts and between walls

func posts(sizes []float64) section {
	if len(sizes) == 0 {
		return section{}
	}
	thickest := sizes[len(sizes)-1]
	return section{spread(sizes, freeMM), thickest, func(b *builder, x, y float64) {
		for _, d := range sizes {
			b.prism(circle(x+d/2, y+thickest/2, d), baseMM-sunkMM, baseMM+tallMM)
			x += d + freeMM
		}
		b.ladder("pins", "post", "Posts", sizes, "round, 4 mm tall, thinnest at the left")
	}}
}

func walls(sizes []float64) section {
	const length = 4.0
	return section{spread(sizes, freeMM), length, func(b *builder, x, y float64) {
		for _, w := range sizes {
			b.prism(rectangle(x, y, w, length), baseMM-sunkMM, baseMM+tallMM)
			x += w + freeMM
		}
		b.ladder("pins", "wall", "Walls", sizes, "free, 4 mm tall, thinnest at the left")
	}}
}

const solidMM = 2.0 // left standing between voids

// voids builds a bar with wells through it, down to the base.
func (b *builder) voids(x, y, depth float64, sizes []float64, well func(middle, size float64) loop) {
	var ends []float64
	var wells []loop
	at := x
	for _, w := range sizes {
		wells = append(wells, well(at+solidMM/2+w/2, w))
		at += w + solidMM
		ends = append(ends, at)
	}
	b.bar(x, y, depth, baseMM-sunkMM, baseMM+barMM, ends, wells)
}

func slots(sizes []float64) section {
	const depth = 5.0
	return section{spread(sizes, solidMM) + solidMM, depth, func(b *builder, x, y float64) {
		b.voids(x, y, depth, sizes, func(middle, w float64) loop { return rectangle(middle-w/2, y+1, w, depth-2) })
		b.ladder("gaps", "slot", "Slots", sizes, "through a bar 3 mm deep, narrowest at the left")
	}}
}

func holes(sizes []float64) section {
	if len(sizes) == 0 {
		return section{}
	}
	depth, width := sizes[len(sizes)-1]+2*solidMM, spread(sizes, solidMM)+solidMM
	return section{width, depth, func(b *builder, x, y float64) {
		b.voids(x, y, depth, sizes, func(middle, d float64) loop { return circle(middle, y+depth/2, d) })
		b.ladder("gaps", "hole", "Holes", sizes, "through a bar 3 mm deep, narrowest at the left")
		b.dimension("Hole bar length", "x", "outer", width, "the bar with the holes, left to right")
	}}
}

// strokes is a tile with raised strokes at the left and engraved ones beside.
func strokes(sizes []float64) section {
	const (
		tile, deep, between = 1.0, 0.3, 1.4
		depth, length       = 5.0, 3.0
		top                 = baseMM + tile
	)
	half := spread(sizes, between) + between
	return section{2 * half, depth, func(b *builder, x, y float64) {
		split := x + half
		at := x + between/2
		for _, w := range sizes {
			b.prism(rectangle(at, y+1, w, length), top-sunkMM, top+deep)
			at += w + between
		}
		at = split
		var ends []float64
		var wells []loop
		for _, w := range sizes {
			wells = append(wells, rectangle(at+between/2, y+1, w, length))
			at += w + between
			ends = append(ends, at)
		}
		b.prism(rectangle(x, y, half+sunkMM, depth), baseMM-sunkMM, top)
		b.prism(rectangle(split, y, half, depth), baseMM-sunkMM, top-deep)
		b.bar(split, y, depth, top-deep-sunkMM, top, ends, wells)
		b.ladder("pins", "raised stroke", "Raised strokes", sizes, "0.3 mm high, on the left half of the tile")
		b.ladder("gaps", "engraved stroke", "Engraved strokes", sizes, "0.3 mm deep, on the right half of the tile")
	}}
}

// block is 12 × 9 mm and stands 5 mm on the base, with a pocket of 6 × 4 mm.
func block() section {
	return section{12, 9, func(b *builder, x, y float64) {
		b.bar(x, y, 9, baseMM-sunkMM, baseMM+5, []float64{x + 12}, []loop{rectangle(x+3, y+2.5, 6, 4)})
		b.dimension("Block length", "x", "outer", 12, "the block with the pocket")
		b.dimension("Block depth", "y", "outer", 9, "the block with the pocket")
		b.dimension("Block height", "z", "outer", baseMM+5, "from the underside of the base")
		b.dimension("Pocket length", "x", "inner", 6, "the pocket in the block")
		b.dimension("Pocket depth", "y", "inner", 4, "the pocket in the block")
	}}
}

// staircase rises by 0.5 mm a step.
func staircase() section {
	const steps, rise, run, depth = 6, 0.5, 1.5, 6.0
	return section{steps * run, depth, func(b *builder, x, y float64) {
		profile := []corner{{x, baseMM - sunkMM}}
		for i := range steps {
			at, high := x+run*float64(i), baseMM+rise*float64(i+1)
			profile = append(profile, corner{at, high}, corner{at + run, high})
		}
		b.extruded(append(profile, corner{x + run*steps, baseMM - sunkMM}), y, depth)
		b.dimension("Staircase depth", "y", "outer", depth, "the staircase, front to back")
		b.dimension("Staircase height", "z", "outer", baseMM+rise*steps, "from the underside of the base to the top step")
		b.checkpoint("All six steps distinct", "staircase, 0.5 mm a step")
	}}
}

func ramp() section {
	const size = 5.0
	return section{size, size, func(b *builder, x, y float64) {
		b.extruded([]corner{{x, baseMM - sunkMM}, {x, baseMM}, {x + size, baseMM + size}, {x + size, baseMM - sunkMM}}, y, size)
		b.checkpoint("Ramp even", "45° face, seen along the light")
	}}
}

// dome is a spherical cap of radius 8 mm on a foot of 9 mm.
func dome() section {
	const radius, foot = 8.0, 9.0
	return section{foot, foot, func(b *builder, x, y float64) {
		b.dome(x+foot/2, y+foot/2, radius, radius-math.Sqrt(radius*radius-foot*foot/4), baseMM-sunkMM, baseMM)
		b.checkpoint("Dome without rings", "spherical cap of radius 8 mm")
	}}
}

// pegMM is the diameter of the loose peg that is tried in the sockets.
const pegMM = 3.0

func sockets(clearances []float64) section {
	if len(clearances) == 0 {
		return section{}
	}
	sizes := make([]float64, len(clearances))
	for i, c := range clearances {
		sizes[i] = pegMM + c
	}
	depth := sizes[len(sizes)-1] + 2*solidMM
	return section{spread(sizes, solidMM) + solidMM, depth, func(b *builder, x, y float64) {
		b.voids(x, y, depth, sizes, func(middle, d float64) loop { return circle(middle, y+depth/2, d) })
		b.ladder("gaps", "fit", "Peg fits", clearances, "the loose 3.00 mm peg in each socket, tightest at the left")
	}}
}

// figures says which of the seven bars of a figure are raised.
var figures = [10]string{"abcdef", "bc", "abged", "abgcd", "fgbc", "afgcd", "afgcde", "abc", "abcdefg", "abcdfg"}

// bars of a figure 3 × 5 mm, as x, y, width, depth from its lower left corner.
var bars = map[rune][4]float64{
	'a': {0.7, 4.2, 1.6, 0.8}, 'b': {2.2, 2.7, 0.8, 1.6}, 'c': {2.2, 0.7, 0.8, 1.6}, 'd': {0.7, 0, 1.6, 0.8},
	'e': {0, 0.7, 0.8, 1.6}, 'f': {0, 2.7, 0.8, 1.6}, 'g': {0.7, 2.1, 1.6, 0.8},
}

func figuresSection(number int64) section {
	const pitch = 4.0
	text := strconv.FormatInt(number, 10)
	// Room for two figures at least, so that all cells of a series are of a size.
	return section{pitch*float64(max(2, len(text))) - 1, 5, func(b *builder, x, y float64) {
		for _, digit := range text {
			for _, name := range figures[digit-'0'] {
				r := bars[name]
				b.prism(rectangle(x+r[0], y+r[1], r[2], r[3]), baseMM-sunkMM, baseMM+figureMM)
			}
			x += pitch
		}
	}}
}

// finish puts the base under everything, its back right corner cut, and the
// loose peg on a foot beside it.
func (b *builder) finish(w, d float64, peg bool) Coupon {
	b.prism(loop{{0, 0}, {w, 0}, {w, d - cutMM}, {w - cutMM, d}, {0, d}}, 0, baseMM)
	if peg {
		x := w + 3
		b.prism(rectangle(x, 0, 7, 7), 0, baseMM)
		b.prism(circle(x+3.5, 3.5, pegMM), baseMM-sunkMM, baseMM+6)
		b.dimension("Peg diameter", "x", "outer", pegMM, "the loose peg, left to right")
		w = x + 7
		d = math.Max(d, 7)
	}
	out := Coupon{Triangles: b.triangles, Features: b.features, SizeMM: [3]float64{w, d, 0}}
	for _, t := range out.Triangles {
		for _, v := range t {
			out.SizeMM[2] = math.Max(out.SizeMM[2], float64(v[2]))
		}
	}
	return out
}
