package contest

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/evidence"
	"ojime/internal/say"
)

// Sentence says what a pair of sides shows of a measure, and no more: what is shown, what
// is not, and what could not have been shown with so few prints. Counted is among how many
// p values it is adjusted.
func Sentence(m Measure, p Pair, names []string, counted Counted) string {
	a, b := m.Sides[p.A], m.Sides[p.B]
	text := fmt.Sprintf("%s: %s %s, %s %s", m.Label, names[p.A], m.Told(a), names[p.B], m.Told(b))
	if p.Kinds > 0 && p.Difference != nil {
		text = fmt.Sprintf("%s: %s against %s %s, over %s that both have", m.Label, names[p.A], names[p.B], m.Apart(p), say.Counted(p.Kinds, "kind"))
	}
	switch {
	case p.Difference == nil || p.P == nil:
		return text + ". " + p.Reason
	case p.Verdict != evidence.NotShown:
		how := "likely"
		if p.Verdict == evidence.Clear {
			how = "clearly"
		}
		return fmt.Sprintf("%s; %s different (%s).", text, how, Chance(p, counted))
	case !p.CanShow:
		return fmt.Sprintf("%s; so few prints could not have shown a difference, whatever came out%s.", text, Needed(p))
	}
	return fmt.Sprintf("%s; a difference is not shown (%s)%s.", text, Chance(p, counted), Needed(p))
}

// Sentences are those of all pairs of a measure: one for each that is shown, and one for
// all that are not, since what was not found needs no list.
func Sentences(m Measure, names []string, counted Counted) (out []string) {
	var not []Pair
	for _, p := range m.Pairs {
		if p.P == nil || p.Verdict != evidence.NotShown {
			out = append(out, Sentence(m, p, names, counted))
		} else {
			not = append(not, p)
		}
	}
	if len(not) < 2 {
		for _, p := range not {
			out = append(out, Sentence(m, p, names, counted))
		}
		return out
	}
	var pairs []string
	var most Pair
	can := false
	for _, p := range not {
		pairs = append(pairs, names[p.A]+" against "+names[p.B])
		can = can || p.CanShow
		if p.PrintsNeeded != nil && (most.PrintsNeeded == nil || *p.PrintsNeeded > *most.PrintsNeeded) {
			most = p
		}
	}
	text := "no difference is shown"
	if !can {
		text = "so few prints could not have shown a difference, whatever came out"
	}
	return append(out, fmt.Sprintf("%s: %s for %s%s.", m.Label, text, say.List(pairs), Needed(most)))
}

// Needed says how many prints a side would show a difference that matters, as words after a sentence; empty where
// that is not known.
func Needed(p Pair) string {
	if p.PrintsNeeded == nil {
		return ""
	}
	return fmt.Sprintf("; about %s a side would show one that matters", say.Counted(*p.PrintsNeeded, "print"))
}

// Chance is the adjusted p in words, and over how many it was adjusted.
func Chance(p Pair, counted Counted) string {
	words := say.Chance(*p.PAdjusted)
	if !strings.HasPrefix(words, "below") {
		words = "= " + words
	}
	switch n := counted.Among(p); {
	case n == 1:
		return "p " + words
	case p.Declared:
		return fmt.Sprintf("p %s among the %d declared to decide", words, n)
	default:
		return fmt.Sprintf("p %s among %d in this table", words, n)
	}
}

// Apart is the difference of a pair with its interval.
func (m Measure) Apart(p Pair) string {
	value, end := say.Micrometres, say.Micrometres
	switch m.Kind {
	case Share:
		end = func(v float64) string { return signed(100 * v) }
		value = func(v float64) string { return end(v) + " points" }
	case Time:
		value, end = func(v float64) string { return say.Figure(v) + " times" }, say.Figure
	case Score:
		value, end = steps, signed
	case Level:
		value = func(v float64) string { return say.InUnit(signed(v), m.Unit) }
		end = value
	}
	text := value(*p.Difference)
	if p.CI != nil {
		text += fmt.Sprintf(" (%s to %s)", end(p.CI[0]), end(p.CI[1]))
	}
	return text
}

// steps is a difference of scores; one is one step.
func steps(v float64) string {
	if say.Figure(math.Abs(v)) == "1" {
		return signed(v) + " step"
	}
	return signed(v) + " steps"
}

func signed(v float64) string {
	if v > 0 {
		return "+" + say.Figure(v)
	}
	return say.Figure(v)
}

// Told is a side's value with its evidence.
func (m Measure) Told(e Estimate) string {
	switch {
	case e.Value == nil:
		return "not known"
	case m.Kind == Share && e.Events != nil:
		return fmt.Sprintf("%s of %s over %s", say.Whole(float64(*e.Events)), say.Counted(e.Specimens, "specimen"), e.From())
	case m.Kind == Score:
		return fmt.Sprintf("%s of 0 to 4 (%s)", say.Figure(*e.Value), e.From())
	case m.Kind == Level:
		return fmt.Sprintf("%s (%s)", say.InUnit(say.Figure(*e.Value), m.Unit), e.From())
	case m.Kind == Time:
		return fmt.Sprintf("%s (%s)", say.Duration(*e.Value), e.From())
	case m.Kind == Length && m.Signed:
		return fmt.Sprintf("%s (%s)", say.Micrometres(*e.Value), e.From())
	case m.Kind == Length:
		return fmt.Sprintf("%s mm (%s)", say.Figure(*e.Value), e.From())
	}
	return fmt.Sprintf("%s (%s)", say.Figure(*e.Value), e.From())
}
