// Package plan lays pieces on a plate, says how many fit, and how many plates
// a week of attended hours carries.
package plan

import (
	"cmp"
	"math"
	"slices"

	"ojime/internal/core/mesh"
)

// Point is a place on the plate in mm: x to the right, y to the back, from the
// front left corner as the plate lies before you.
type Point [2]float64

// Footprint is the convex outline of what a piece covers, anticlockwise, about
// the middle of its box, in mm, and its height.
type Footprint struct {
	Outline  []Point `json:"outline"`
	HeightMM float64 `json:"height_mm"`
}

// simplerMM is how far a corner may stand out and still be left out of a
// footprint; the outline is then widened by as much.
const simplerMM = 0.01

// FootprintOf is the convex hull of a mesh seen from above (Andrew 1979),
// about the middle of its box.
func FootprintOf(m *mesh.Mesh) Footprint {
	points := make([]Point, 0, 3*len(m.Triangles))
	low, high := math.Inf(1), math.Inf(-1)
	for i := range m.Triangles {
		for _, v := range m.Triangles[i] {
			points = append(points, Point{float64(v[0]), float64(v[1])})
			low, high = min(low, float64(v[2])), max(high, float64(v[2]))
		}
	}
	outline := simpler(hull(points))
	var least, most Point
	for axis := range 2 {
		least[axis], most[axis] = math.Inf(1), math.Inf(-1)
		for _, p := range outline {
			least[axis], most[axis] = min(least[axis], p[axis]), max(most[axis], p[axis])
		}
	}
	for i := range outline {
		for axis := range 2 {
			outline[i][axis] -= (least[axis] + most[axis]) / 2
		}
	}
	return Footprint{Outline: outline, HeightMM: high - low}
}

func cross(o, a, b Point) float64 { return (a[0]-o[0])*(b[1]-o[1]) - (a[1]-o[1])*(b[0]-o[0]) }

func hull(points []Point) []Point {
	slices.SortFunc(points, func(a, b Point) int {
		if a[0] != b[0] {
			return cmp.Compare(a[0], b[0])
		}
		return cmp.Compare(a[1], b[1])
	})
	points = slices.Compact(points)
	if len(points) < 3 {
		return points
	}
	half := func(next func(int) Point) []Point {
		var out []Point
		for i := range points {
			p := next(i)
			for len(out) > 1 && cross(out[len(out)-2], out[len(out)-1], p) <= 0 {
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		return out[:len(out)-1]
	}
	return append(half(func(i int) Point { return points[i] }), half(func(i int) Point { return points[len(points)-1-i] })...)
}

// simpler leaves out corners that hardly stand out.
func simpler(outline []Point) []Point {
	out := slices.Clone(outline)
	for i := 0; len(out) > 8 && i < len(out); {
		before, after := out[(i+len(out)-1)%len(out)], out[(i+1)%len(out)]
		chord := math.Hypot(after[0]-before[0], after[1]-before[1])
		if chord > 0 && math.Abs(cross(before, after, out[i]))/chord < simplerMM {
			out = slices.Delete(out, i, i+1)
			i++ // never two in a row, so that little by little does not become much
		} else {
			i++
		}
	}
	return out
}

// Place is where the middle of a piece's box lies and how it is turned.
type Place struct {
	XMM     float64 `json:"x_mm"`
	YMM     float64 `json:"y_mm"`
	TurnDeg float64 `json:"turn_deg"`
}

// On is the footprint's outline where it lies, scaled by a factor.
func (f Footprint) On(p Place, scale float64) []Point {
	sin, cos := math.Sincos(p.TurnDeg * math.Pi / 180)
	switch math.Mod(math.Mod(p.TurnDeg, 360)+360, 360) { // square turns stay exact
	case 0:
		sin, cos = 0, 1
	case 90:
		sin, cos = 1, 0
	case 180:
		sin, cos = 0, -1
	case 270:
		sin, cos = -1, 0
	}
	out := make([]Point, len(f.Outline))
	for i, q := range f.Outline {
		out[i] = Point{p.XMM + scale*(q[0]*cos-q[1]*sin), p.YMM + scale*(q[0]*sin+q[1]*cos)}
	}
	return out
}

// box is the size of the footprint's box when turned.
func (f Footprint) box(turnDeg, scale float64) (width, depth float64) {
	least, most := boxOf(f.On(Place{TurnDeg: turnDeg}, scale))
	return most[0] - least[0], most[1] - least[1]
}

func boxOf(outline []Point) (least, most Point) {
	least, most = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, p := range outline {
		for axis := range 2 {
			least[axis], most[axis] = min(least[axis], p[axis]), max(most[axis], p[axis])
		}
	}
	return least, most
}

// gap is the distance between two convex outlines, 0 where they overlap.
func gap(a, b []Point) float64 {
	if overlap(a, b) {
		return 0
	}
	least := math.Inf(1)
	for _, pair := range [2][2][]Point{{a, b}, {b, a}} {
		for _, p := range pair[0] {
			for i, q := range pair[1] {
				least = min(least, toSegment(p, q, pair[1][(i+1)%len(pair[1])]))
			}
		}
	}
	return least
}

// overlap reports whether no line separates two convex outlines.
func overlap(a, b []Point) bool {
	for _, outline := range [2][]Point{a, b} {
		for i, p := range outline {
			q := outline[(i+1)%len(outline)]
			axis := Point{q[1] - p[1], p[0] - q[0]}
			if axis == (Point{}) {
				continue
			}
			lowA, highA := shadow(a, axis)
			lowB, highB := shadow(b, axis)
			if highA <= lowB || highB <= lowA {
				return false
			}
		}
	}
	return true
}

func shadow(outline []Point, axis Point) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, p := range outline {
		v := p[0]*axis[0] + p[1]*axis[1]
		low, high = min(low, v), max(high, v)
	}
	return low, high
}

func toSegment(p, a, b Point) float64 {
	dx, dy := b[0]-a[0], b[1]-a[1]
	t := 0.0
	if square := dx*dx + dy*dy; square > 0 {
		t = max(0, min(1, ((p[0]-a[0])*dx+(p[1]-a[1])*dy)/square))
	}
	return math.Hypot(p[0]-a[0]-t*dx, p[1]-a[1]-t*dy)
}
