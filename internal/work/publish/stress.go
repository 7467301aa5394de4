package publish

import (
	"fmt"
	"strings"

	"ojime/internal/say"
	"ojime/internal/work/compare"
)

// heldLine says of one side of an ordeal how many specimens held at each level.
func heldLine(o compare.Ordeal, i int) string {
	side := o.Sides[i]
	if len(side.Rungs) == 0 {
		return "none stressed once"
	}
	rungs := []string{}
	for _, r := range side.Rungs {
		rungs = append(rungs, fmt.Sprintf("%s: %d of %d", say.InUnit(say.Figure(r.Level), o.Unit), r.Held, r.Of))
	}
	return fmt.Sprintf("%s (%s)", strings.Join(rungs, "; "), say.Counted(int64(side.Prints), "print"))
}
