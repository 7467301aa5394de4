package finding

import (
	"fmt"
	"strings"

	"ojime/internal/say"
)

// means is what each grade allows to say, as a sentence of its own.
var means = map[string]string{Showed: "The prints showed it", Suggests: "The prints suggest it", Looked: "It looked so", CannotTell: "It cannot be told", NotTested: "It was not tested"}

// Means is what a grade allows to say, as a sentence of its own without a full stop; empty for a word that is no grade.
func Means(grade string) string { return means[grade] }

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
