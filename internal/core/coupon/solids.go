package coupon

import (
	"math"

	"ojime/internal/core/mesh"
)

type point [3]float64

// solid gathers closed bodies with outward faces.
type solid struct{ triangles []mesh.Triangle }

func (s *solid) face(a, b, c point) {
	var t mesh.Triangle
	for i, p := range []point{a, b, c} {
		for axis := range p {
			t[i][axis] = float32(p[axis])
		}
	}
	s.triangles = append(s.triangles, t)
}

func (s *solid) quad(a, b, c, d point) {
	s.face(a, b, c)
	s.face(a, c, d)
}

type corner [2]float64

func (c corner) at(z float64) point { return point{c[0], c[1], z} }

// loop is a convex outline, anticlockwise seen from above.
type loop []corner

func rectangle(x, y, width, depth float64) loop {
	return loop{{x, y}, {x + width, y}, {x + width, y + depth}, {x, y + depth}}
}

// roundnessMM is how far a polygon may leave the circle it stands for.
const roundnessMM = 0.00025

// circle is a polygon that leaves the circle by at most a quarter of a
// micrometre on either side.
func circle(x, y, diameter float64) loop {
	r := diameter / 2
	n := 24
	if r > roundnessMM {
		n = max(n, int(math.Ceil(math.Pi/math.Acos(1-2*roundnessMM/r))))
	}
	r += roundnessMM
	out := make(loop, n)
	for i := range out {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(n))
		out[i] = corner{x + r*cos, y + r*sin}
	}
	return out
}

// prism stands on a convex outline.
func (s *solid) prism(outline loop, bottom, top float64) {
	for i := range outline {
		a, b := outline[i], outline[(i+1)%len(outline)]
		s.quad(a.at(bottom), b.at(bottom), b.at(top), a.at(top))
		if i > 0 && i < len(outline)-1 {
			s.face(outline[0].at(top), a.at(top), b.at(top))
			s.face(outline[0].at(bottom), b.at(bottom), a.at(bottom))
		}
	}
}

// bar is a block along x with convex wells through it, each in the middle of
// its own stretch; ends lists where the stretches end, from x on.
func (s *solid) bar(x, y, depth, bottom, top float64, ends []float64, wells []loop) {
	left := x
	for i, right := range ends {
		front := []corner{{left, y}, {right, y}}
		back := []corner{{right, y + depth}, {left, y + depth}}
		s.quad(front[0].at(bottom), front[1].at(bottom), front[1].at(top), front[0].at(top))
		s.quad(back[0].at(bottom), back[1].at(bottom), back[1].at(top), back[0].at(top))
		s.well(append(front, back...), wells[i], bottom, top)
		left = right
	}
	s.quad(point{x, y + depth, bottom}, point{x, y, bottom}, point{x, y, top}, point{x, y + depth, top})
	s.quad(point{left, y, bottom}, point{left, y + depth, bottom}, point{left, y + depth, top}, point{left, y, top})
}

// well covers the ring between an outline and a well in it, above and below,
// and lines the well. Corners of both are taken in the order of their bearing
// from the middle of the well, so that no face crosses another.
func (s *solid) well(outline, well loop, bottom, top float64) {
	var middle corner
	for _, p := range well {
		middle[0] += p[0] / float64(len(well))
		middle[1] += p[1] / float64(len(well))
	}
	outer, inner := byBearing(outline, middle), byBearing(well, middle)
	bearing := func(l loop, i int) float64 {
		p := l[i%len(l)]
		return math.Atan2(p[1]-middle[1], p[0]-middle[0]) + 2*math.Pi*float64(i/len(l))
	}
	for i, j := 0, 0; i < len(inner) || j < len(outer); {
		a, b := inner[i%len(inner)], outer[(j+len(outer)-1)%len(outer)]
		next := outer[j%len(outer)]
		if j == len(outer) || i < len(inner) && bearing(inner, i+1) <= bearing(outer, j) {
			next = inner[(i+1)%len(inner)]
			s.quad(next.at(bottom), a.at(bottom), a.at(top), next.at(top))
			i++
		} else {
			j++
		}
		s.face(a.at(top), b.at(top), next.at(top))
		s.face(a.at(bottom), next.at(bottom), b.at(bottom))
	}
}

// byBearing starts a loop at the corner of least bearing.
func byBearing(l loop, middle corner) loop {
	first := 0
	for i, p := range l {
		if math.Atan2(p[1]-middle[1], p[0]-middle[0]) < math.Atan2(l[first][1]-middle[1], l[first][0]-middle[0]) {
			first = i
		}
	}
	return append(append(loop{}, l[first:]...), l[:first]...)
}

// extruded stands a convex or stepped profile in x and z, given clockwise seen
// from the front (bottom left first, then up), along y. Every point of it must
// be seen from its last one.
func (s *solid) extruded(profile []corner, y, depth float64) {
	at := func(c corner, y float64) point { return point{c[0], y, c[1]} }
	last := profile[len(profile)-1]
	for i, a := range profile {
		b := profile[(i+1)%len(profile)]
		s.quad(at(a, y), at(b, y), at(b, y+depth), at(a, y+depth))
		if i < len(profile)-2 {
			s.face(at(last, y), at(b, y), at(a, y))
			s.face(at(last, y+depth), at(a, y+depth), at(b, y+depth))
		}
	}
}

// dome is a spherical cap of a radius and height above a level, closed below.
func (s *solid) dome(x, y, radius, height, bottom, level float64) {
	const rings = 48
	foot := math.Sqrt(radius*radius - (radius-height)*(radius-height))
	rim := circle(x, y, 2*foot)
	polar := math.Asin(foot / radius)
	at := func(ring, i int) point {
		angle := polar * (1 - float64(ring)/rings)
		k := radius * math.Sin(angle) / foot
		p := rim[i%len(rim)]
		return point{x + (p[0]-x)*k, y + (p[1]-y)*k, level + radius*math.Cos(angle) - (radius - height)}
	}
	for i := range rim {
		a, b := rim[i], rim[(i+1)%len(rim)]
		s.quad(a.at(bottom), b.at(bottom), at(0, i+1), at(0, i))
		s.face(point{x, y, bottom}, b.at(bottom), a.at(bottom))
		for ring := range rings - 1 {
			s.quad(at(ring, i), at(ring, i+1), at(ring+1, i+1), at(ring+1, i))
		}
		s.face(at(rings-1, i), at(rings-1, i+1), point{x, y, level + height})
	}
}
