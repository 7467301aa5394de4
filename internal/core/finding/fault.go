package finding

import (
	"fmt"

	"ojime/internal/core/contest"
	"ojime/internal/say"
)

// Faults is the grade of a symptom counted over two sides: what was looked for and counted, and put to no test of chance, is no
// more than looked. A rule of our own.
func Faults() Graded {
	return Graded{Grade: Looked, Because: []string{"it was counted by its symptom, and not tested against chance"}}
}

// FaultSentence says on how many copies and prints of two sides (by their places) a symptom was seen. Names are those of the
// sides, piece is what was printed.
func FaultSentence(piece string, f contest.Fault, a, b int, names []string) string {
	return fmt.Sprintf("%s, %s: seen %s on %s, %s on %s.", piece, say.Words(f.Symptom), FaultFigure(f, a), names[a], FaultFigure(f, b), names[b])
}

// FaultFigure is on how many copies and prints of a side a symptom was seen.
func FaultFigure(f contest.Fault, side int) string {
	s := f.Sides[side]
	if s.Specimens == 0 {
		return "on none over " + say.Counted(s.Of, "print")
	}
	return fmt.Sprintf("on %s over %d of %s", say.Counted(s.Specimens, "specimen"), s.Prints, say.Counted(s.Of, "print"))
}
