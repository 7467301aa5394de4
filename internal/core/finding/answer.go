package finding

import (
	"fmt"
	"strings"

	"ojime/internal/say"
)

// Answer says how sure the answer of a review is, from the grades of its findings in the reviewer's order: it stands on the
// first, so it is no surer than that; the others stand beside it. A rule of our own.
func Answer(grades []string) string {
	if len(grades) == 0 {
		return "How sure: not graded, as no finding is picked to carry the answer."
	}
	says := fmt.Sprintf("How sure: %s, the grade of the first finding, which carries the answer", say.Words(grades[0]))
	var beside []string
	for _, g := range Grades {
		n := int64(0)
		for _, other := range grades[1:] {
			if other == g {
				n++
			}
		}
		if n > 0 {
			beside = append(beside, fmt.Sprintf("%d %s", n, say.Words(g)))
		}
	}
	if len(beside) > 0 {
		says += "; of the others " + strings.Join(beside, ", ")
	}
	return says + "."
}
