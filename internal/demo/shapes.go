package demo

import (
	"math"

	"ojime/internal/core/mesh"
)

// Our own test pieces, built from closed solids. Solids overlap by a little
// where they join, as pieces from modelling software do.

type point [3]float64

func triangle(a, b, c point) mesh.Triangle {
	var t mesh.Triangle
	for i, p := range []point{a, b, c} {
		for axis := range p {
			t[i][axis] = float32(p[axis])
		}
	}
	return t
}

// box spans from corner to corner.
func box(x0, y0, z0, x1, y1, z1 float64) []mesh.Triangle {
	v := func(i int) point {
		p := point{x0, y0, z0}
		if i&1 != 0 {
			p[0] = x1
		}
		if i&2 != 0 {
			p[1] = y1
		}
		if i&4 != 0 {
			p[2] = z1
		}
		return p
	}
	var out []mesh.Triangle
	for _, q := range [][4]int{{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}} {
		out = append(out, triangle(v(q[0]), v(q[1]), v(q[2])), triangle(v(q[0]), v(q[2]), v(q[3])))
	}
	return out
}

// turned spins a profile of radii over heights about an upright axis at x, y.
// The first and last radius may be 0.
func turned(x, y float64, radii, heights []float64, sectors int) []mesh.Triangle {
	at := func(ring, sector int) point {
		angle := 2 * math.Pi * float64(sector%sectors) / float64(sectors)
		if radii[ring] == 0 {
			angle = 0
		}
		return point{x + radii[ring]*math.Cos(angle), y + radii[ring]*math.Sin(angle), heights[ring]}
	}
	var out []mesh.Triangle
	last := len(radii) - 1
	for s := range sectors {
		for r := range last {
			a, b, c, d := at(r, s), at(r, s+1), at(r+1, s+1), at(r+1, s)
			if radii[r] > 0 {
				out = append(out, triangle(a, b, c))
			}
			if radii[r+1] > 0 {
				out = append(out, triangle(a, c, d))
			}
		}
		if radii[0] > 0 {
			out = append(out, triangle(point{x, y, heights[0]}, at(0, s+1), at(0, s)))
		}
		if radii[last] > 0 {
			out = append(out, triangle(point{x, y, heights[last]}, at(last, s), at(last, s+1)))
		}
	}
	return out
}

// warden is a standing figure with a thin staff.
func warden() []mesh.Triangle {
	out := turned(12, 12, []float64{12, 12}, []float64{0, 3}, 48)
	out = append(out, turned(12, 12, []float64{6, 5, 3.4, 4.2, 2}, []float64{2.9, 10, 17, 23, 26}, 40)...)
	out = append(out, turned(12, 12, []float64{0, 2.4, 2.9, 2.2, 0}, []float64{25, 26.5, 29, 31.5, 32.5}, 32)...)
	return append(out, turned(19.5, 12, []float64{0.4, 0.4, 1.1, 0}, []float64{2.9, 33, 34, 36}, 20)...)
}

// lantern is an open cage of bars between two plates.
func lantern() []mesh.Triangle {
	out := turned(11, 11, []float64{11, 11}, []float64{0, 2}, 48)
	for i := range 8 {
		angle := 2 * math.Pi * float64(i) / 8
		out = append(out, turned(11+9*math.Cos(angle), 11+9*math.Sin(angle), []float64{0.35, 0.35}, []float64{1.9, 24.1}, 16)...)
	}
	out = append(out, turned(11, 11, []float64{10.5, 10.5, 3, 0}, []float64{24, 25.5, 30, 32}, 48)...)
	return append(out, turned(11, 11, []float64{2.5, 3.4, 1.2, 0}, []float64{1.9, 6, 9, 11}, 32)...)
}

// wyrm is a winding row of spines on a plinth.
func wyrm() []mesh.Triangle {
	out := box(0, 0, 0, 44, 18, 3)
	for i := range 14 {
		x := 4 + 2.8*float64(i)
		y := 9 + 5*math.Sin(float64(i)*0.7)
		h := 9 + 7*math.Sin(float64(i)*0.45)
		out = append(out, turned(x, y, []float64{2.1, 1.9, 0.3, 0}, []float64{2.9, h, h + 5, h + 6}, 28)...)
	}
	return out
}

var (
	pinSizes = []float64{0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.8}
	gapSizes = []float64{0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5}
)
