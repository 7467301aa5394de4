package mesh

import (
	"math"
	"testing"
)

// bored is a cuboid with a square hole from top to bottom.
func bored(x0, y0, z0, x1, y1, z1, hx0, hy0, hx1, hy1 float32) []Triangle {
	var out []Triangle
	wall := func(ax, ay, bx, by float32) {
		out = append(out, Triangle{{ax, ay, z0}, {bx, by, z0}, {bx, by, z1}}, Triangle{{ax, ay, z0}, {bx, by, z1}, {ax, ay, z1}})
	}
	wall(x0, y0, x1, y0)
	wall(x1, y0, x1, y1)
	wall(x1, y1, x0, y1)
	wall(x0, y1, x0, y0)
	wall(hx0, hy0, hx0, hy1)
	wall(hx0, hy1, hx1, hy1)
	wall(hx1, hy1, hx1, hy0)
	wall(hx1, hy0, hx0, hy0)
	flat := func(ax, ay, bx, by float32) {
		out = append(out,
			Triangle{{ax, ay, z1}, {bx, ay, z1}, {bx, by, z1}}, Triangle{{ax, ay, z1}, {bx, by, z1}, {ax, by, z1}},
			Triangle{{ax, ay, z0}, {bx, by, z0}, {bx, ay, z0}}, Triangle{{ax, ay, z0}, {ax, by, z0}, {bx, by, z0}})
	}
	flat(x0, y0, x1, hy0)
	flat(x0, hy1, x1, y1)
	flat(x0, hy0, hx0, hy1)
	flat(hx1, hy0, x1, hy1)
	return out
}

// A plate 40 × 30 × 4 with a hole of 6 × 5; on it two posts 3 wide and 8 high, a cylinder of 7,
// and two walls 2.5 apart; all of it moved away from the origin.
func fixture() *Mesh {
	at := func(triangles []Triangle) []Triangle {
		for i := range triangles {
			for c := range 3 {
				triangles[i][c][0] += 100
				triangles[i][c][1] -= 50
			}
		}
		return triangles
	}
	var out []Triangle
	out = append(out, bored(0, 0, 0, 40, 30, 4, 4, 4, 10, 9)...)
	out = append(out, cuboid(20, 4, 4, 23, 6, 12)...)
	out = append(out, cuboid(30, 4, 4, 33, 6, 12)...)
	out = append(out, cuboid(20, 20, 4, 21, 26, 9)...)
	out = append(out, cuboid(23.5, 20, 4, 24.5, 26, 9)...)
	return &Mesh{Triangles: at(out)}
}

func TestASizeIsFoundWhereItStands(t *testing.T) {
	for name, c := range map[string]struct {
		sought   Sought
		from, to [3]float64
		alike    int64
	}{
		"the whole along x":        {Sought{0, 40, false}, [3]float64{100, -35, 2}, [3]float64{140, -35, 2}, 0},
		"the whole along y":        {Sought{1, 30, false}, [3]float64{120, -50, 2}, [3]float64{120, -20, 2}, 0},
		"a post, one of two":       {Sought{0, 3, false}, [3]float64{120, -45, 8}, [3]float64{123, -45, 8}, 1},
		"the hole along x":         {Sought{0, 6, true}, [3]float64{104, -43.5, 2}, [3]float64{110, -43.5, 2}, 0},
		"the hole along y":         {Sought{1, 5, true}, [3]float64{107, -46, 2}, [3]float64{107, -41, 2}, 0},
		"the height of a post":     {Sought{2, 8, false}, [3]float64{121.5, -45, 4}, [3]float64{121.5, -45, 12}, 1},
		"the thickness":            {Sought{2, 4, false}, [3]float64{120, -37, 0}, [3]float64{120, -37, 4}, 0},
		"from foot to top":         {Sought{2, 12, false}, [3]float64{122, -45.3, 0}, [3]float64{122, -45.3, 12}, 0},
		"the room between walls":   {Sought{0, 2.5, true}, [3]float64{121, -26, 5.67}, [3]float64{123.5, -26, 5.67}, 0},
		"within what chords lose":  {Sought{0, 40.15, false}, [3]float64{100, -35, 2}, [3]float64{140, -35, 2}, 0},
		"a step":                   {Sought{2, 5.02, true}, [3]float64{120.67, -28, 4}, [3]float64{120.67, -28, 9}, 0},
		"beyond what chords lose":  {Sought{0, 40.25, false}, [3]float64{}, [3]float64{}, -1},
		"a size that it has not":   {Sought{0, 17.3, false}, [3]float64{}, [3]float64{}, -1},
		"a hole's size as a solid": {Sought{1, 5, false}, [3]float64{}, [3]float64{}, -1},
	} {
		spots, err := Locate(fixture(), []Sought{c.sought})
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		switch {
		case len(spots[0]) != int(c.alike)+1:
			t.Errorf("%s: %v, want %d", name, spots[0], c.alike+1)
		case c.alike >= 0:
			s := spots[0][0]
			far := 0.0
			for axis := range 3 {
				far = math.Max(far, math.Max(math.Abs(s.FromMM[axis]-c.from[axis]), math.Abs(s.ToMM[axis]-c.to[axis])))
			}
			if far > 0.35 { // levels lie up to half a cut off the middle
				t.Errorf("%s: from %v to %v; want %v to %v", name, s.FromMM, s.ToMM, c.from, c.to)
			}
		}
	}
}

// A cone passes through every width once; none of them is a size that it has.
func TestASlopeHasNoSize(t *testing.T) {
	var cone []Triangle
	for i := range 60 {
		corner := func(k int) [3]float32 {
			sin, cos := math.Sincos(2 * math.Pi * float64(k%60) / 60)
			return [3]float32{float32(10 * cos), float32(10 * sin), 0}
		}
		cone = append(cone, Triangle{corner(i), corner(i + 1), {0, 0, 30}}, Triangle{corner(i + 1), corner(i), {0, 0, 0}})
	}
	spots, err := Locate(&Mesh{Triangles: cone}, []Sought{{0, 12, false}, {0, 5, false}})
	if err != nil || len(spots[0])+len(spots[1]) > 0 {
		t.Errorf("%v, %v", spots, err)
	}
}

// What a point has on the drawings is where the drawings have it.
func TestAPointIsDrawnWhereThePictureHasIt(t *testing.T) {
	m := fixture()
	b := BoundsOf(m.Triangles)
	const size = 400
	plan, front := Plan(m.Triangles, size), Front(m.Triangles, size)
	for name, c := range map[string]struct {
		on   [2]float64
		lit  func(x, y int) bool
		want bool
	}{
		"in the hole":       {b.OnPlan([3]float64{107, -43.5, 2}), func(x, y int) bool { return plan.RGBAAt(x, y).A > 0 }, false},
		"beside the hole":   {b.OnPlan([3]float64{110.8, -43.5, 2}), func(x, y int) bool { return plan.RGBAAt(x, y).A > 0 }, true},
		"between the walls": {b.OnFront([3]float64{125.5, 0, 10}), func(x, y int) bool { return front.RGBAAt(x, y).A > 0 }, false},
		"in a post":         {b.OnFront([3]float64{131.5, 0, 11}), func(x, y int) bool { return front.RGBAAt(x, y).A > 0 }, true},
	} {
		if got := c.lit(int(c.on[0]*size), int(c.on[1]*size)); got != c.want {
			t.Errorf("%s at %v: lit %t", name, c.on, got)
		}
	}
}
