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
