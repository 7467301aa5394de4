package mesh

import (
	"image"
	"image/color"
	"math"
)

// Reduced merges corners within cubes until at most about most triangles are
// left, for a view on the screen; measuring uses the mesh itself.
func Reduced(triangles []Triangle, most int) []Triangle {
	if len(triangles) <= most {
		return triangles
	}
	size, bottom := bounds(triangles)
	// A surface of n triangles crosses about n/2 cubes.
	var surface float64
	for i := range triangles {
		n := normal(triangles[i])
		surface += math.Sqrt(n[0]*n[0]+n[1]*n[1]+n[2]*n[2]) / 2
	}
	cube := math.Max(math.Sqrt(2*surface/float64(most)), math.Max(size[0], math.Max(size[1], size[2]))/1000)
	type key [3]int32
	middle := map[key][4]float64{}
	at := func(v *[3]float32) key {
		var k key
		for axis := range k {
			k[axis] = int32((float64(v[axis]) - bottom[axis]) / cube)
		}
		return k
	}
	for i := range triangles {
		for corner := range 3 {
			v := &triangles[i][corner]
			k := at(v)
			m := middle[k]
			middle[k] = [4]float64{m[0] + float64(v[0]), m[1] + float64(v[1]), m[2] + float64(v[2]), m[3] + 1}
		}
	}
	var out []Triangle
	for i := range triangles {
		a, b, c := at(&triangles[i][0]), at(&triangles[i][1]), at(&triangles[i][2])
		if a == b || b == c || c == a {
			continue
		}
		var t Triangle
		for corner, k := range []key{a, b, c} {
			m := middle[k]
			t[corner] = [3]float32{float32(m[0] / m[3]), float32(m[1] / m[3]), float32(m[2] / m[3])}
		}
		out = append(out, t)
	}
	return out
}

// Picture is a still view of a mesh from the front right and above, as it
// stands on the plate, on a clear ground; size is its width and height in its
// own pixels. Faces are shaded by how they are turned.
func Picture(triangles []Triangle, size int) *image.RGBA {
	out, _ := Closeup(triangles, size, 1, 0.5, 0.5)
	return out
}

// Closeup is a part of Picture, so many times enlarged (1 or more) about a place of it, both
// 0 to 1 from its upper left corner. It says how many pixels of it a millimetre across the
// line of sight spans.
func Closeup(triangles []Triangle, size int, times, atX, atY float64) (*image.RGBA, float64) {
	// Turned by 35° and tilted by 25°.
	sinT, cosT := math.Sincos(35 * math.Pi / 180)
	sinE, cosE := math.Sincos(25 * math.Pi / 180)
	out, _, scale := view(triangles, size, gaze{[3]float64{cosT, sinT, 0}, [3]float64{-sinT * sinE, cosT * sinE, cosE}, [3]float64{-sinT * cosE, cosT * cosE, -sinE}}, times, atX, atY)
	return out, scale
}

// filledShare is what the larger side of a mesh fills of a picture.
const filledShare = 0.92

// fromAbove has x to the right and y upwards, fromFront x to the right and z upwards.
var (
	fromAbove = gaze{[3]float64{1, 0, 0}, [3]float64{0, 1, 0}, [3]float64{0, 0, -1}}
	fromFront = gaze{[3]float64{1, 0, 0}, [3]float64{0, 0, 1}, [3]float64{0, 1, 0}}
)

// Plan is a mesh from above, x to the right and y upwards, and Front from the front, x to the
// right and z upwards; both on a clear ground, in the middle, with the larger side filling
// filledShare of the size.
func Plan(triangles []Triangle, size int) *image.RGBA {
	return drawn(triangles, size, fromAbove)
}

// Front is the elevation that belongs to Plan.
func Front(triangles []Triangle, size int) *image.RGBA {
	return drawn(triangles, size, fromFront)
}

// edgeShare is how far two neighbouring points of a drawing must lie apart along the line of
// sight, as a share of the larger side, for an edge to be drawn between them.
const edgeShare = 0.004

// drawn is a view straight on with its edges: without them a post would not stand out from the
// plate that it stands on, since both face the same way.
func drawn(triangles []Triangle, size int, from gaze) *image.RGBA {
	out, depth, scale := view(triangles, size, from, 1, 0.5, 0.5)
	edge := edgeShare * filledShare * float64(size) / scale
	at := func(x, y int) float64 {
		if x < 0 || y < 0 || x >= size || y >= size {
			return math.Inf(1)
		}
		return depth[y*size+x]
	}
	for y := range size {
		for x := range size {
			// The nearer side of an edge; an even slope bends nowhere and has none.
			here := at(x, y)
			bend := math.Max(at(x-1, y)+at(x+1, y)-2*here, at(x, y-1)+at(x, y+1)-2*here)
			if !math.IsInf(here, 1) && bend > edge {
				out.SetRGBA(x, y, color.RGBA{60, 64, 68, 255})
			}
		}
	}
	return out
}

// OnPlan is where a point of a mesh with these bounds, in mm, lies on its Plan, from the
// upper left corner, as shares of the size.
func (b Bounds) OnPlan(mm [3]float64) [2]float64 { return b.on(fromAbove, mm) }

// OnFront is where it lies on the Front.
func (b Bounds) OnFront(mm [3]float64) [2]float64 { return b.on(fromFront, mm) }

func (b Bounds) on(from gaze, mm [3]float64) [2]float64 {
	low, high := b.Min, b.Max
	width, height := inner(high, from.right)-inner(low, from.right), inner(high, from.up)-inner(low, from.up)
	scale := filledShare / math.Max(math.Max(width, height), 1e-9)
	return [2]float64{
		0.5 + (inner(mm, from.right)-(inner(low, from.right)+inner(high, from.right))/2)*scale,
		0.5 - (inner(mm, from.up)-(inner(low, from.up)+inner(high, from.up))/2)*scale,
	}
}

// gaze is what lies to the right, upwards and away from the viewer.
type gaze struct{ right, up, back [3]float64 }

// view is the mesh as a gaze has it, how far away each of its points is in mm (infinite where
// there is nothing), and how many pixels a millimetre spans.
func view(triangles []Triangle, size int, from gaze, times, atX, atY float64) (*image.RGBA, []float64, float64) {
	out := image.NewRGBA(image.Rect(0, 0, size, size))
	least := [2]float64{math.Inf(1), math.Inf(1)}
	most := [2]float64{math.Inf(-1), math.Inf(-1)}
	project := func(v *[3]float32) [3]float64 {
		p := [3]float64{float64(v[0]), float64(v[1]), float64(v[2])}
		return [3]float64{inner(p, from.right), inner(p, from.up), inner(p, from.back)}
	}
	for i := range triangles {
		for corner := range 3 {
			p := project(&triangles[i][corner])
			for axis := range 2 {
				least[axis], most[axis] = min(least[axis], p[axis]), max(most[axis], p[axis])
			}
		}
	}
	scale := times * filledShare * float64(size) / math.Max(math.Max(most[0]-least[0], most[1]-least[1]), 1e-9)
	depth := make([]float64, size*size)
	for i := range depth {
		depth[i] = math.Inf(1)
	}
	for i := range triangles {
		n := normal(triangles[i])
		length := math.Sqrt(inner(n, n))
		if length == 0 {
			continue
		}
		var t [3][3]float64
		for corner := range t {
			p := project(&triangles[i][corner])
			t[corner] = [3]float64{
				float64(size)*(0.5+(0.5-atX)*times) + (p[0]-(least[0]+most[0])/2)*scale, float64(size)*(0.5+(0.5-atY)*times) - (p[1]-(least[1]+most[1])/2)*scale, p[2]}
		}
		light := math.Abs(-0.35*n[0]-0.6*n[1]+0.72*n[2]) / length
		shade := uint8(70 + 150*math.Min(1, light))
		paint(out, depth, size, t, color.RGBA{shade, uint8(min(255, int(shade)+6)), uint8(min(255, int(shade)+12)), 255})
	}
	return out, depth, scale
}

func inner(a, b [3]float64) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

// paint fills a triangle where it is nearer than what was painted before.
func paint(out *image.RGBA, depth []float64, size int, t [3][3]float64, c color.RGBA) {
	area := (t[1][0]-t[0][0])*(t[2][1]-t[0][1]) - (t[2][0]-t[0][0])*(t[1][1]-t[0][1])
	if area == 0 {
		return
	}
	x0, x1 := min(t[0][0], t[1][0], t[2][0]), max(t[0][0], t[1][0], t[2][0])
	y0, y1 := min(t[0][1], t[1][1], t[2][1]), max(t[0][1], t[1][1], t[2][1])
	for y := max(0, int(y0)); y <= min(size-1, int(y1)); y++ {
		for x := max(0, int(x0)); x <= min(size-1, int(x1)); x++ {
			px, py := float64(x)+0.5, float64(y)+0.5
			b := ((px-t[0][0])*(t[2][1]-t[0][1]) - (t[2][0]-t[0][0])*(py-t[0][1])) / area
			g := ((t[1][0]-t[0][0])*(py-t[0][1]) - (px-t[0][0])*(t[1][1]-t[0][1])) / area
			if b < 0 || g < 0 || b+g > 1 {
				continue
			}
			z := t[0][2] + b*(t[1][2]-t[0][2]) + g*(t[2][2]-t[0][2])
			if z < depth[y*size+x] {
				depth[y*size+x] = z
				out.SetRGBA(x, y, c)
			}
		}
	}
}
