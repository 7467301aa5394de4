package mesh

import (
	"image"
	"testing"
)

// A wedge that rises to the left fills, from the front, its lower left half, and from above its
// whole plan; a long side takes the share of the picture that is said.
func TestPlanAndFrontShowTheirSides(t *testing.T) {
	a, b, c := [3]float32{0, 0, 0}, [3]float32{30, 0, 0}, [3]float32{0, 0, 15}
	e, f, g := [3]float32{0, 20, 0}, [3]float32{30, 20, 0}, [3]float32{0, 20, 15}
	wedge := []Triangle{{a, b, c}, {e, g, f}, {a, e, f}, {a, f, b}, {a, c, g}, {a, g, e}, {b, f, g}, {b, g, c}}
	const size = 200
	lit := func(p *image.RGBA, x, y float64) bool { return p.RGBAAt(int(x*size), int(y*size)).A > 0 }
	plan, front := Plan(wedge, size), Front(wedge, size)
	for name, is := range map[string]bool{
		"the plan in its corners":  lit(plan, 0.06, 0.21) && lit(plan, 0.94, 0.79),
		"nothing above the plan":   !lit(plan, 0.5, 0.17),
		"the front at its left":    lit(front, 0.06, 0.32),
		"the front at its foot":    lit(front, 0.9, 0.72),
		"nothing where it is low":  !lit(front, 0.9, 0.4),
		"nothing beside the front": !lit(front, 0.02, 0.5),
	} {
		if !is {
			t.Errorf("%s is not so", name)
		}
	}
}

// The drawings have the edges of what stands out, and none on an even slope.
func TestADrawingHasEdges(t *testing.T) {
	a, b, c := [3]float32{0, 0, 0}, [3]float32{30, 0, 0}, [3]float32{0, 0, 30}
	e, f, g := [3]float32{0, 30, 0}, [3]float32{30, 30, 0}, [3]float32{0, 30, 30}
	slope := []Triangle{{a, b, c}, {e, g, f}, {a, e, f}, {a, f, b}, {a, c, g}, {a, g, e}, {b, f, g}, {b, g, c}}
	posts := append(cuboid(0, 0, 0, 30, 30, 3), cuboid(10, 10, 3, 20, 20, 6)...)
	const size = 200
	dark := func(p *image.RGBA, x, y float64) bool {
		for dx := -2; dx <= 2; dx++ {
			if c := p.RGBAAt(int(x*size)+dx, int(y*size)); c.A > 0 && c.R < 65 {
				return true
			}
		}
		return false
	}
	if p := Plan(posts, size); !dark(p, 0.5-0.92/6, 0.5) || dark(p, 0.5, 0.5) || dark(p, 0.2, 0.5) {
		t.Error("a post does not stand out from its plate by its edge alone")
	}
	if p := Plan(slope, size); dark(p, 0.5, 0.5) || dark(p, 0.3, 0.4) || !dark(p, 0.04, 0.5) {
		t.Error("a slope is drawn as an edge, or has none at its end")
	}
}
