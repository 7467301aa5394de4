package publish

import (
	"fmt"
	"strings"

	"ojime/internal/core/stress"
	"ojime/internal/say"
	"ojime/internal/work/compare"
)

// levelFigures are those of a level as it was set: 1219 mm is not 1220.
const levelFigures = 6

// heldLine says of one side of an ordeal how many copies held at each level, and what those did that climbed.
func heldLine(o compare.Ordeal, i int) string {
	side := o.Sides[i]
	level := func(v float64) string { return say.InUnit(say.Figures(v, levelFigures), o.Unit) }
	var words []string
	for _, r := range side.Rungs {
		words = append(words, fmt.Sprintf("%s: %d of %d", level(r.Level), r.Held, r.Of))
	}
	if side.Climbed.Of > 0 {
		words = append(words, climbedWords(side.Climbed, level))
	}
	if len(words) == 0 {
		return "none was stressed"
	}
	return fmt.Sprintf("%s (%s)", strings.Join(words, "; "), say.Counted(int64(side.Prints), "print"))
}

func climbedWords(c stress.Climbed, level func(float64) string) string {
	var words []string
	if c.Survived > 0 {
		words = append(words, fmt.Sprintf("%d of %s survived the highest level, %s", c.Survived, say.Counted(c.Of, "copy", "copies"), level(c.Highest)))
	}
	if f := c.Failed; f != nil {
		where := "at " + level(f[0])
		if f[0] != f[1] {
			where = "between " + level(f[0]) + " and " + level(f[1])
		}
		words = append(words, fmt.Sprintf("%d of %s failed on the way up, %s", c.Of-c.Survived, say.Counted(c.Of, "copy", "copies"), where))
	}
	return strings.Join(words, "; ")
}
