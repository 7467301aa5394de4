package findings

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/finding"
	"ojime/internal/say"
	"ojime/internal/work/compare"
	"ojime/internal/work/disclosure"
	"ojime/internal/work/reviews"
)

// words are a grade as it reads.
func words(grade string) string { return say.Words(grade) }

// rowsOf are the rows of a contest: every measure for every pair of prints. What a reference shows stands in the table; it
// contends with nobody.
func rowsOf(review bench.Review, c reviews.Contest, ties interests) (out []FoundRow) {
	first := c.Results[0]
	names := namesOf(c)
	for _, m := range first.Measures {
		result := c.For(m.Questions)
		for _, p := range pairsOf(m, c) {
			if c.SetUps[p.A].ReferenceID != "" || c.SetUps[p.B].ReferenceID != "" || c.PieceID == "" && p.Kinds == 0 || m.Alike {
				continue
			}
			out = append(out, rowOf(review, c, result, m, p, names, ties))
		}
	}
	return append(out, faultRows(review, c, names, ties)...)
}

// faultRows are the symptoms that were seen on either side of a pair, of one piece: counted, and put to no test.
func faultRows(review bench.Review, c reviews.Contest, names []string, ties interests) (out []FoundRow) {
	result := c.For([]string{audit.Failure})
	if c.PieceID == "" {
		return nil
	}
	for _, f := range result.Faults {
		for _, at := range contest.Between(len(result.Sides), result.Baseline) {
			a, b := at[0], at[1]
			if f.Sides[a].Specimens+f.Sides[b].Specimens == 0 || c.SetUps[a].ReferenceID != "" || c.SetUps[b].ReferenceID != "" || f.Sides[a].Of == 0 || f.Sides[b].Of == 0 {
				continue
			}
			row := begun(review, c, result, "fault "+f.Symptom, a, b, ties)
			graded := finding.Faults()
			row.Grade, row.Because, row.Sentence = graded.Grade, graded.Because, finding.FaultSentence(c.Piece, f, a, b, names)
			row.rests(c, result, names, func(side int) (string, int64) { return finding.FaultFigure(f, side), 0 }, a, b)
			out = append(out, row)
		}
	}
	return out
}

// begun is a row of a contest between two sides, with what stands beside it and nothing said yet.
func begun(review bench.Review, c reviews.Contest, result compare.Comparison, measure string, a, b int, ties interests) FoundRow {
	row := FoundRow{Question: result.Question, Beside: []string{}, Disclosure: ties.in(c.SetUps[a], c.SetUps[b]), Rests: []FoundSide{}, Link: linkOf(review, c, result.Question)}
	row.of = bench.Finding{PieceID: c.PieceID, Measure: measure, Sides: bench.SetUpRefs{c.SetUps[a].Ref(), c.SetUps[b].Ref()}}
	row.Key = strings.Join([]string{c.PieceID, measure, c.SetUps[a].ProfileID, c.SetUps[a].Since, c.SetUps[b].ProfileID, c.SetUps[b].Since}, "|")
	for _, audited := range result.Audits {
		if audited.A == a && audited.B == b || audited.A == b && audited.B == a {
			row.Fair, row.Beside = audited.Result.Grade, beside(audited)
		}
	}
	return row
}

// rests says on which prints of which sides a row rests, and where it holds.
func (row *FoundRow) rests(c reviews.Contest, result compare.Comparison, names []string, figure func(side int) (string, int64), sides ...int) {
	bounds := finding.Bounds{Piece: c.Piece, Kind: c.PieceKind}
	for _, i := range sides {
		side := result.Sides[i]
		bounds.Machines, bounds.Resins = append(bounds.Machines, side.Machine), append(bounds.Resins, side.Resin)
		bounds.LayersUM, bounds.TempsC = append(bounds.LayersUM, c.Matched.Layers(i)...), append(bounds.TempsC, c.Matched.Temps(i)...)
		bounds.Prints += len(side.RunIDs)
		says, readings := figure(i)
		row.Rests = append(row.Rests, FoundSide{Name: names[i], Label: side.Label, Figure: says, RunIDs: side.RunIDs, Runs: side.Runs, Readings: readings})
	}
	row.Scope = finding.Scope(bounds)
}

// pairsOf are the pairs of a measure; what has no test has none, and is still between each side and the baseline.
func pairsOf(m contest.Measure, c reviews.Contest) []contest.Pair {
	if m.Kind != contest.Money {
		return m.Pairs
	}
	var out []contest.Pair
	for _, at := range contest.Between(len(m.Sides), c.Results[0].Baseline) {
		out = append(out, contest.Pair{A: at[0], B: at[1]})
	}
	return out
}

func namesOf(c reviews.Contest) []string {
	sides := make([]finding.Side, len(c.SetUps))
	for i, s := range c.SetUps {
		sides[i] = finding.Side{Name: s.Name, Machine: s.Machine, Resin: s.Resin, Settings: s.Settings, Label: s.Label}
		if s.ReferenceID != "" {
			sides[i] = finding.Side{Label: s.Label}
		}
	}
	return finding.Names(sides)
}

func rowOf(review bench.Review, c reviews.Contest, result compare.Comparison, m contest.Measure, p contest.Pair, names []string, ties interests) FoundRow {
	row := begun(review, c, result, m.Key, p.A, p.B, ties)
	a, b := m.Sides[p.A], m.Sides[p.B]
	prints := min(a.Prints, b.Prints)
	if p.Kinds > 0 { // the difference is known, kind by kind, and a value of the whole may not be
		prints = min(int64(len(result.Sides[p.A].RunIDs)), int64(len(result.Sides[p.B].RunIDs)))
	}
	e := finding.Evidence{How: finding.How(m), Known: a.Value != nil && b.Value != nil || p.Kinds > 0 && p.Difference != nil, Prints: prints, Verdict: p.Verdict, CanShow: p.CanShow,
		Deciding: p.Declared && declaredBefore(review), Among: c.Results[0].Counted.Among(p), Apart: finding.LieApart(a.CI, b.CI)}
	e.Audit = row.Fair
	graded := finding.Grade(e)
	row.Grade, row.Because = graded.Grade, graded.Because
	label := m
	if c.PieceID != "" && !strings.Contains(m.Label, c.Piece) {
		label.Label = c.Piece + ", " + strings.ToLower(m.Label[:1]) + m.Label[1:]
	}
	row.Sentence = finding.Sentence(graded, label, p, names, c.Results[0].Counted)
	row.rests(c, result, names, func(side int) (string, int64) { return figureOf(m, side), m.Sides[side].Readings }, p.A, p.B)
	return row
}

// figureOf is what a side shows of a measure; empty where only differences are known.
func figureOf(m contest.Measure, side int) string {
	if m.Sides[side].Value == nil {
		return ""
	}
	return m.Told(m.Sides[side])
}

// declaredBefore reports that what decides was declared before anything was printed.
func declaredBefore(review bench.Review) bool {
	d := review.Deciding.Stands()
	return d != nil && d.Prints == 0
}

// beside is what an audit found to weigh, and what it could not know.
func beside(a compare.Audit) []string {
	out := []string{}
	for _, r := range a.Result.Rows {
		if r.Weight != audit.None {
			out = append(out, r.Sentence)
		}
	}
	return out
}

// interests are all that a review has to disclose.
type interests []disclosure.Disclosed

// in are those that touch set-ups: how their machines came, known or not, and what is on record of their resins and pieces.
func (l interests) in(setups ...reviews.SetUp) []string {
	out := []string{}
	for _, d := range l {
		touched := slices.ContainsFunc(setups, func(s reviews.SetUp) bool {
			return d.ID == s.MachineID || d.ID == s.ResinID || d.ID == s.PieceID || d.Kind == "review"
		})
		switch {
		case !touched:
		case len(d.Says) > 0:
			out = append(out, d.Name+": "+strings.Join(d.Says, "; "))
		case d.Kind == "machine":
			out = append(out, d.Name+": how it came is not on record")
		}
	}
	return out
}

// linkOf is the address of the page where a row stands.
func linkOf(review bench.Review, c reviews.Contest, question string) string {
	piece := c.PieceID
	if piece == "" {
		piece = "all"
	}
	return fmt.Sprintf("/compare?%s", url.Values{"review": {review.ID}, "piece": {piece}, "question": {question}}.Encode())
}
