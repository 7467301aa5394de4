package findings

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/core/evidence"
	"ojime/internal/core/finding"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/reviews"
)

// panelRows are what the closed panels of a review showed.
func panelRows(t *store.Tx, review bench.Review, setups []reviews.SetUp, ties interests) ([]FoundRow, error) {
	closed, err := ballots.Closed(t, review.ID)
	if err != nil {
		return nil, err
	}
	var out []FoundRow
	for _, s := range closed {
		var arms []reviews.SetUp
		for _, arm := range s.Panel.Arms {
			if at := slices.IndexFunc(setups, func(s reviews.SetUp) bool { return s.ProfileID == arm.ProfileID && s.PieceID == arm.PieceID }); at >= 0 {
				arms = append(arms, setups[at])
			}
		}
		for i, e := range evidenceOf(s) {
			row := panelRow(s, setups, int64(i), e)
			row.Disclosure = ties.in(arms...)
			out = append(out, row)
		}
	}
	return out, nil
}

// evidenceOf is what a panel rests on, once for each pair of a preference, else once.
func evidenceOf(s ballots.Shown) []finding.Evidence {
	base := finding.Evidence{How: finding.Blind, Known: s.Result.Answers > 0, Prints: s.Result.Judges, OpenedEarly: s.Panel.EarlyWhy != "", Knew: s.Knew.Of > 0 && 2*s.Knew.Said >= s.Knew.Of, Among: 1}
	var out []finding.Evidence
	for _, p := range s.Result.Pairs {
		e := base
		e.Verdict, e.CanShow = p.Ballots.Verdict, quantity.Less(p.Ballots.LeastP, evidence.Significance)
		out = append(out, e)
	}
	if g := s.Result.Guessed; g != nil {
		base.Verdict, base.CanShow = g.Verdict, g.Of >= g.Least
	} else {
		base.Verdict, base.CanShow = leads(s.Result.Ranked), len(s.Result.Ranked) > 0
	}
	if len(out) == 0 && len(s.Says) > 0 {
		out = append(out, base)
	}
	return out
}

// leads is likely where the first of a ranking lies apart from the second by what judges vary, else not shown.
func leads(ranked []blind.Strength) string {
	if len(ranked) < 2 {
		return evidence.NotShown
	}
	order := slices.Clone(ranked)
	slices.SortFunc(order, func(a, b blind.Strength) int {
		if a.Strength > b.Strength {
			return -1
		}
		return 1
	})
	if a, b := order[0], order[1]; a.SE != nil && b.SE != nil && a.Strength-b.Strength > 2*math.Hypot(*a.SE, *b.SE) {
		return evidence.Likely
	}
	return evidence.NotShown
}

func panelRow(s ballots.Shown, setups []reviews.SetUp, at int64, e finding.Evidence) FoundRow {
	p := s.Panel
	e.Deciding = true // a panel is one question, asked before anybody voted
	graded := finding.Grade(e)
	row := FoundRow{Key: fmt.Sprintf("panel|%s|%d", p.ID, at), Question: "panel", Grade: graded.Grade, Because: graded.Because, Disclosure: []string{}, Beside: []string(p.Tells), Rests: []FoundSide{}, Link: "/verdict/panels/" + p.ID}
	row.of = bench.Finding{PanelID: &p.ID, PanelRow: at}
	opening := map[string]string{finding.Showed: "Blind judges showed it", finding.Suggests: "Blind judges suggest it", finding.Looked: "Judges saw it so", finding.CannotTell: "It cannot be told by these judges", finding.NotTested: "Nobody voted"}[graded.Grade]
	row.Sentence = fmt.Sprintf("“%s” %s: %s", p.Question, opening, s.Says[min(int(at), len(s.Says)-1)])
	row.Scope = strings.Join([]string{p.Code, s.Grade, p.Stage + ", " + p.View().StationWords() + ", " + p.Light, say.Counted(int64(len(s.Key)), "item") + " shown"}, "; ")
	for a, arm := range p.Arms {
		rest := FoundSide{Name: arm.Label, Label: arm.Label, Figure: "", RunIDs: []string{}, Runs: []string{}}
		for _, k := range s.Key {
			if k.Arm == a && k.RunID != "" && !slices.Contains(rest.RunIDs, k.RunID) {
				rest.RunIDs = append(rest.RunIDs, k.RunID)
			}
		}
		rest.name(setups)
		row.Rests = append(row.Rests, rest)
	}
	return row
}

// name gives the prints of a side their codes.
func (r *FoundSide) name(setups []reviews.SetUp) {
	for _, id := range r.RunIDs {
		code := id
		for _, s := range setups {
			if i := slices.Index(s.RunIDs, id); i >= 0 {
				code = s.Runs[i]
			}
		}
		r.Runs = append(r.Runs, code)
	}
}
