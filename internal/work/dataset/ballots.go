package dataset

import (
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/say"
	"ojime/internal/work/ballots"
)

// ballotRows are the answers of the closed panels of a review, one a row, without the names of judges.
func ballotRows(of Source) [][]string {
	out := [][]string{{"panel", "question", "looks_at", "kind", "shows", "stage", "station", "light", "judge", "trial", "codes", "items", "arms", "answer", "sure", "knew", "knew_by", "way", "cast", "grade"}}
	for _, s := range of.Panels {
		behind := map[string]ballots.Behind{}
		for _, k := range s.Key {
			behind[k.Code] = k
		}
		p := s.Panel
		for _, b := range s.Cast {
			for i, a := range b.Answers {
				var items, arms []string
				for _, code := range b.Trials[i] {
					items, arms = append(items, behind[code].Item), append(arms, p.Arms[behind[code].Arm].Label)
				}
				knew, sure := "", ""
				if b.Knew != nil {
					knew = strconv.FormatBool(*b.Knew)
				}
				if a.Sure != nil {
					sure = strconv.FormatInt(*a.Sure, 10)
				}
				out = append(out, []string{p.Code, p.Question, p.LooksAt, p.Kind, p.Shows, p.Stage, p.View().StationWords(), p.Light, strconv.FormatInt(b.Judge, 10), strconv.Itoa(i + 1),
					strings.Join(b.Trials[i], " "), strings.Join(items, " "), strings.Join(arms, "; "), answered(p, b.Trials[i], a), sure, knew, b.KnewBy, b.Way, say.Instant(*b.CastMS), s.Grade})
			}
		}
	}
	return out
}

// answered is an answer by codes, or by the name of an arm.
func answered(p bench.Panel, codes []string, a bench.BallotAnswer) string {
	switch {
	case p.Kind == blind.Matching:
		return p.Arms[a.Arm].Label
	case p.Kind == blind.Ranking:
		words := make([]string, len(a.Order))
		for i, place := range a.Order {
			words[i] = codes[place]
		}
		return strings.Join(words, " > ")
	case a.Place == blind.NoDifference:
		return "no difference"
	}
	return codes[a.Place]
}
