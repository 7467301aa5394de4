package publish

import (
	"testing"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stress"
	"ojime/internal/work/compare"
)

func TestWhatCopiesBoreIsSaid(t *testing.T) {
	climbed := func(failed ...float64) stress.Climbed {
		var all []stress.Climb
		for _, f := range failed {
			c := stress.Climb{HeldTo: 1219}
			if f > 0 {
				c.FailedAt = quantity.Ptr(f)
			}
			all = append(all, c)
		}
		return stress.ClimbedOf([]stress.Print{{Climbed: all}})
	}
	for _, c := range []struct {
		name string
		side compare.OrdealSide
		want string
	}{
		{"nothing", compare.OrdealSide{}, "none was stressed"},
		{"fresh copies", compare.OrdealSide{Rungs: []compare.OrdealRung{{Level: 300, Held: 3, Of: 3}, {Level: 1219, Held: 1, Of: 3}}, Prints: 2}, "300 mm: 3 of 3; 1219 mm: 1 of 3 (2 prints)"},
		{"all held to the top", compare.OrdealSide{Climbed: climbed(0, 0, 0), Prints: 3}, "3 of 3 copies survived the highest level, 1219 mm (3 prints)"},
		{"some failed", compare.OrdealSide{Climbed: climbed(0, 610, 914), Prints: 1}, "1 of 3 copies survived the highest level, 1219 mm; 2 of 3 copies failed on the way up, between 610 mm and 914 mm (1 print)"},
		{"all failed at one level", compare.OrdealSide{Climbed: climbed(305, 305), Prints: 1}, "2 of 2 copies failed on the way up, at 305 mm (1 print)"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := heldLine(compare.Ordeal{Unit: "mm", Sides: []compare.OrdealSide{c.side}}, 0); got != c.want {
				t.Errorf("%q, want %q", got, c.want)
			}
		})
	}
}
