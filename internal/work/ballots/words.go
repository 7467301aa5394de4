package ballots

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// grade is how blind a panel was, by how many judges, and what is against it.
func (s Shown) grade() string {
	how := "blind: whoever coded did not vote"
	switch s.Panel.CodedBy {
	case bench.CodedByAssistant:
		how = "double-blind: an assistant coded"
	case bench.CodedByProgram:
		how = "double-blind: the program coded"
	}
	text := fmt.Sprintf("%s; sealed on %s; %s", how, say.Day(*s.Panel.SealedMS), say.Counted(s.Result.Judges, "judge"))
	if s.Panel.EarlyWhy != "" {
		text += "; opened early (" + strings.TrimSuffix(s.Panel.EarlyWhy, ".") + ")"
	}
	return text
}

func (s Shown) arm(i int) string { return s.Panel.Arms[i].Label }

// says is what a panel showed in sentences, and how far to trust it.
func (s Shown) says() []string {
	out := []string{}
	for _, p := range s.Result.Pairs {
		out = append(out, s.preferred(p))
	}
	if g := s.Result.Guessed; g != nil {
		out = append(out, guessed(s.Panel.Kind, *g))
	}
	if len(s.Result.Ranked) > 0 {
		out = append(out, s.ranked())
	}
	if a := s.Result.Alike; a != nil {
		out = append(out, fmt.Sprintf("Two of one set-up were shown %s as a check: a difference was seen in %s.", say.Counted(a.Of, "time"), say.Whole(float64(a.Seen))))
	}
	if l := s.Result.Left; l != nil {
		out = append(out, fmt.Sprintf("What stood on the left was chosen in %s of %s (p %s): %s", say.Whole(float64(l.Left)), say.Whole(float64(l.Of)), chance(l.P),
			map[bool]string{true: "judges leaned to a side, whatever stood there.", false: "no side was favoured."}[l.P < evidence.Significance]))
	}
	if text := s.sure(); text != "" {
		out = append(out, text)
	}
	if k := s.Knew; k.Of > 0 {
		text := fmt.Sprintf("%s of %s believed to know which was which", say.Whole(float64(k.Said)), say.Counted(k.Of, "judge"))
		if len(k.By) > 0 {
			text += ": " + strings.Join(k.By, "; ")
		}
		out = append(out, strings.TrimSuffix(text, ".")+".")
	}
	for _, w := range s.Result.Warnings.Warnings {
		if w.Code != "too_few_judges" || s.Panel.Kind == blind.Ranking { // a preference says it beside its figures
			out = append(out, w.Message)
		}
	}
	return out
}

// preferred is a pair in a sentence, the one chosen more often first.
func (s Shown) preferred(p blind.PairResult) string {
	b := p.Ballots
	first, second, share, ci := s.arm(p.Pair[0]), s.arm(p.Pair[1]), b.Share, b.CI
	if share < 0.5 {
		first, second, share, ci = second, first, 1-share, quantity.Interval{1 - ci[1], 1 - ci[0]}
	}
	text := fmt.Sprintf("%s rather than %s in %s of the votes (%s to %s; %s of %s)", first, second, say.Percent(share), say.Figure(100*ci[0]), say.Percent(ci[1]), say.Counted(b.Votes, "vote"), say.Counted(b.Judges, "judge"))
	if b.None > 0 {
		text += fmt.Sprintf(", no difference said in %s", say.Whole(float64(b.None)))
	}
	switch {
	case b.Verdict == evidence.Clear:
		text += fmt.Sprintf("; clearly preferred (p %s).", chance(b.P))
	case b.Verdict == evidence.Likely:
		text += fmt.Sprintf("; likely preferred (p %s).", chance(b.P))
	case !quantity.Less(b.LeastP, evidence.Significance):
		text += fmt.Sprintf("; %s too few, whatever they say: six who prefer one can show it.", counts(b.Judges))
	default:
		text += fmt.Sprintf("; a preference is not shown (p %s)", chance(b.P))
		if p.JudgesNeeded != nil {
			text += fmt.Sprintf("; about %s who prefer one, divided like these, would show it", say.Counted(*p.JudgesNeeded, "judge"))
		}
		text += "."
	}
	if b.RepeatAgreement != nil {
		text += fmt.Sprintf(" Shown the same again, judges chose the same in %s.", say.Percent(*b.RepeatAgreement))
	}
	return text
}

func counts(judges int64) string {
	if judges == 1 {
		return "one judge who prefers one is"
	}
	return say.Counted(judges, "judge") + ", or those of them who prefer one, are"
}

func guessed(kind string, g blind.Guessed) string {
	what := map[string]string{blind.OddOneOut: "The odd one was found", blind.Matching: "It was told which was which"}[kind]
	text := fmt.Sprintf("%s in %s of %s, %s (%s to %s); by chance %s would be", what, say.Whole(float64(g.Right)), say.Whole(float64(g.Of)), say.Percent(g.Share), say.Figure(100*g.CI[0]), say.Percent(g.CI[1]), say.Percent(g.Chance))
	switch {
	case g.Verdict == evidence.Clear:
		return fmt.Sprintf("%s. A difference is clearly seen (p %s).", text, chance(g.P))
	case g.Verdict == evidence.Likely:
		return fmt.Sprintf("%s. A difference is likely seen (p %s).", text, chance(g.P))
	case g.Of < g.Least:
		return fmt.Sprintf("%s. So few answers could not have shown it, whatever they were: %s can.", text, say.Whole(float64(g.Least)))
	}
	text += fmt.Sprintf(". That a difference is seen is not shown (p %s)", chance(g.P))
	if g.Needed != nil {
		text += fmt.Sprintf("; about %s answers like these would show it", say.Whole(float64(*g.Needed)))
	}
	return text + "."
}

// ranked is a ranking in a sentence, the best first.
func (s Shown) ranked() string {
	order := make([]blind.Strength, len(s.Result.Ranked))
	copy(order, s.Result.Ranked)
	for i := range order {
		for j := i; j > 0 && order[j].Strength > order[j-1].Strength; j-- {
			order[j], order[j-1] = order[j-1], order[j]
		}
	}
	words := make([]string, len(order))
	for i, r := range order {
		if words[i] = fmt.Sprintf("%s (%s", s.arm(r.Arm), say.Figures(r.Strength, 2)); r.SE != nil {
			words[i] += " ± " + say.Figures(2**r.SE, 2)
		}
		words[i] += ")"
	}
	return "From best to worst: " + strings.Join(words, ", ") + ". Figures are log strengths about their mean, ± twice the error over judges; where two overlap, their order is not shown."
}

// sure is how sure judges were, and what it was worth.
func (s Shown) sure() string {
	if len(s.Result.Sure) == 0 {
		return ""
	}
	sum := func(from, to int) (n, right int64) {
		for _, r := range s.Result.Sure[from : to+1] {
			n += r.Answers
			right += quantity.Or(r.Right, 0)
		}
		return n, right
	}
	guess, rightGuess := sum(0, 1)
	certain, rightCertain := sum(3, 4)
	if s.Result.Guessed == nil {
		return fmt.Sprintf("Judges were sure or certain of %s, and guessed or nearly so %s.", say.Counted(certain, "answer"), say.Counted(guess, "time"))
	}
	return fmt.Sprintf("Of %s said to be sure or certain %s were right, of %s said to be guesses or nearly so %s.", say.Counted(certain, "answer"), say.Whole(float64(rightCertain)), say.Counted(guess, "answer"), say.Whole(float64(rightGuess)))
}

// chance is a p as it stands behind its letter.
func chance(p float64) string {
	words := say.Chance(p)
	if strings.HasPrefix(words, "below") {
		return words
	}
	return "= " + words
}
