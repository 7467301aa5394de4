package finding

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/contest"
	"ojime/internal/say"
)

// said are the words that open what a grade allows to say of a difference.
var said = map[string]string{
	Showed:   "these prints showed it to be",
	Suggests: "these prints suggest that it is",
	Looked:   "to an eye that knew which was which it looked",
}

// more and less are how a difference of each kind is said.
var more = map[string][2]string{
	contest.Share: {"rarer", "commoner"}, contest.Length: {"smaller", "larger"}, contest.Score: {"lower", "higher"},
	contest.Time: {"shorter", "longer"}, contest.Level: {"lower", "higher"}, contest.Money: {"lower", "higher"},
}

// Sentence says what a pair of sides shows of a measure in the strongest words that its grade allows; of equal values
// nothing can be said to be more. Names are those of the sides, counted says among how many p it was adjusted.
func Sentence(g Graded, m contest.Measure, p contest.Pair, names []string, counted contest.Counted) string {
	a, b := m.Sides[p.A], m.Sides[p.B]
	both := m.Told(a) + " against " + m.Told(b)
	switch g.Grade {
	case NotTested:
		return fmt.Sprintf("%s: not tested on %s. %s", m.Label, say.List(missing(m, p, names)), names[p.A]+" against "+names[p.B]+": "+both) + "."
	case CannotTell:
		text := fmt.Sprintf("%s: it cannot be told whether %s and %s differ", m.Label, names[p.A], names[p.B])
		if p.Kinds > 0 && p.Difference != nil {
			text += fmt.Sprintf(", by %s over %s that both have", m.Apart(p), say.Counted(p.Kinds, "kind"))
		} else {
			text += " (" + both + ")"
		}
		if p.P != nil && p.PAdjusted != nil {
			text += "; " + contest.Chance(p, counted)
		}
		return text + contest.Needed(p) + "."
	}
	text := fmt.Sprintf("%s: %s %s on %s than on %s", m.Label, said[g.Grade], how(m, p), names[p.A], names[p.B])
	if p.Kinds > 0 {
		text += fmt.Sprintf(", by %s over %s that both have", m.Apart(p), say.Counted(p.Kinds, "kind"))
	} else {
		text += " (" + both
		if p.Difference != nil {
			text += "; difference " + m.Apart(p)
		}
		text += ")"
	}
	if p.P != nil && p.PAdjusted != nil {
		text += "; " + contest.Chance(p, counted)
	}
	return text + "."
}

func missing(m contest.Measure, p contest.Pair, names []string) (out []string) {
	for _, i := range []int{p.A, p.B} {
		if m.Sides[i].Value == nil {
			out = append(out, names[i])
		}
	}
	return out
}

// how is what the first side of a pair is against the second. Errors on one side of the nominal size are nearer to it or
// further from it: −60 µm is no small error beside −20.
func how(m contest.Measure, p contest.Pair) string {
	at := 0
	if higher(m, p) {
		at = 1
	}
	a, b := m.Sides[p.A].Value, m.Sides[p.B].Value
	if !m.Signed || a == nil || b == nil || *a**b < 0 {
		return more[m.Kind][at]
	}
	if math.Abs(*a) > math.Abs(*b) {
		return "further from nominal"
	}
	return "nearer to nominal"
}

// higher reports that the first side of a pair has more of a measure.
func higher(m contest.Measure, p contest.Pair) bool {
	switch {
	case p.Difference == nil:
		a, b := m.Sides[p.A].Value, m.Sides[p.B].Value
		return a != nil && b != nil && *a > *b
	case m.Kind == contest.Time:
		return *p.Difference > 1
	}
	return *p.Difference > 0
}

// How says how a measure is found out, by its key and kind.
func How(m contest.Measure) string {
	switch {
	case m.Kind == contest.Money:
		return Computed
	case strings.HasPrefix(m.Key, "rating "):
		return Judged
	case m.Kind == contest.Share:
		return Counted
	}
	return Measured
}
