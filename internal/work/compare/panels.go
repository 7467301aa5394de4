package compare

import (
	"slices"

	"ojime/internal/core/blind"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/side"
)

// PanelRow is what a closed blind panel showed of two sides, or, with A and B below 0, of all that it set
// against each other. Share is that of the votes for A in a preference, of the right answers where there are
// any; both with their interval over judges or answers. Its p stands by itself: it is not adjusted with the table.
type PanelRow struct {
	PanelID  string             `json:"panel_id"`
	Code     string             `json:"code"`
	Kind     string             `json:"kind" enum:"preference,odd_one_out,ranking,matching"`
	Question string             `json:"question"`
	LooksAt  string             `json:"looks_at"`
	A        int                `json:"a"`
	B        int                `json:"b"`
	Share    *float64           `json:"share"`
	CI       *quantity.Interval `json:"ci"`
	P        *float64           `json:"p"`
	Chance   *float64           `json:"chance"`
	Votes    int64              `json:"votes"`
	Judges   int64              `json:"judges"`
	Verdict  string             `json:"verdict"`
	Grade    string             `json:"grade"`
	Says     string             `json:"says"`
}

// panelsOf are the closed panels whose arms are sides: each arm's prints lie in one side, no two in the same.
func panelsOf(t *store.Tx, sides []side.Prints) ([]PanelRow, error) {
	out := []PanelRow{}
	panels, err := t.Panels()
	if err != nil {
		return nil, err
	}
	for _, p := range panels {
		if !p.Closed() || p.TakenBackMS != nil {
			continue
		}
		shown, err := ballots.Of(t, p)
		if err != nil {
			return nil, err
		}
		if of, all := sidesOf(shown, sides); all {
			out = append(out, rowsOf(shown, of)...)
		}
	}
	return out, nil
}

// sidesOf says which side each arm is.
func sidesOf(s ballots.Shown, sides []side.Prints) (of []int, all bool) {
	of = make([]int, len(s.Panel.Arms))
	for a := range of {
		of[a] = -1
	}
	for _, k := range s.Key {
		at := slices.IndexFunc(sides, func(side side.Prints) bool { return side.Holds(k.RunID, s.Panel.Arms[k.Arm].PieceID) })
		if at < 0 || of[k.Arm] >= 0 && of[k.Arm] != at {
			return nil, false
		}
		of[k.Arm] = at
	}
	sorted := slices.Clone(of)
	slices.Sort(sorted)
	return of, len(slices.Compact(sorted)) == len(of)
}

func rowsOf(s ballots.Shown, of []int) (out []PanelRow) {
	row := PanelRow{PanelID: s.Panel.ID, Code: s.Panel.Code, Kind: s.Panel.Kind, Question: s.Panel.Question, LooksAt: s.Panel.LooksAt, A: -1, B: -1, Judges: s.Result.Judges, Votes: s.Result.Answers, Grade: s.Grade}
	for i, p := range s.Result.Pairs {
		r, b := row, p.Ballots
		r.A, r.B, r.Share, r.CI, r.P, r.Verdict, r.Votes, r.Judges, r.Says = of[p.Pair[0]], of[p.Pair[1]], &b.Share, &b.CI, &b.P, b.Verdict, b.Votes, b.Judges, s.Says[i]
		out = append(out, r)
	}
	if len(out) > 0 || len(s.Says) == 0 {
		return out
	}
	row.Says = s.Says[0] // of the kind's own figures, which stand first
	if g := s.Result.Guessed; g != nil {
		row.Share, row.CI, row.P, row.Chance, row.Verdict = &g.Share, &g.CI, &g.P, &g.Chance, g.Verdict
	}
	if len(of) == 2 && s.Panel.Kind != blind.Ranking {
		row.A, row.B = of[0], of[1]
	}
	return []PanelRow{row}
}
