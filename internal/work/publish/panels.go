package publish

import (
	"fmt"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
)

// voted is a panel as a write-up tells of it; Open says so where its key is still sealed.
type voted struct {
	ballots.Shown
	Panel bench.Panel
	How   string
	Open  string
}

// panelsOf are the panels of a review, in their order: what closed ones showed, and that others are open.
func panelsOf(t *store.Tx, reviewID string) (out []voted, err error) {
	panels, err := t.PanelsOfReview(reviewID)
	if err != nil {
		return nil, err
	}
	for _, p := range panels {
		if p.TakenBackMS != nil {
			continue
		}
		v := voted{Panel: p, How: howShown(p)}
		if p.Closed() {
			if v.Shown, err = ballots.Of(t, p); err != nil {
				return nil, err
			}
		} else {
			v.Open = "It is not closed: its key is sealed, and what was voted is not told."
		}
		out = append(out, v)
	}
	return out, nil
}

// howShown is what judges were shown, and how.
func howShown(p bench.Panel) string {
	what := map[string]string{blind.Preference: "Two were shown at a time, to choose from", blind.OddOneOut: "Three were shown at a time, to find the odd one", blind.Ranking: "All were shown at once, to put in order", blind.Matching: "One was shown at a time, to say which it is"}[p.Kind]
	return fmt.Sprintf("%s (%s; %s, %s, %s).", what, p.Shows, p.Stage, p.View().StationWords(), p.Light)
}

// ballotRows are the answers of the closed panels of a review, one a row, without the names of judges.
func ballotRows(of published) [][]string {
	out := [][]string{{"panel", "question", "looks_at", "kind", "shows", "stage", "station", "light", "judge", "trial", "codes", "items", "arms", "answer", "sure", "knew", "knew_by", "way", "cast", "grade"}}
	for _, s := range of.panels {
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
