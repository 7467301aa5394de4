package publish

import (
	"strings"

	"ojime/internal/work/findings"
)

// findingRows are the findings of a review in its order: what is published, what the record gives, and what it rests on.
func findingRows(of published) [][]string {
	out := [][]string{{"finding", "says", "grade", "because", "record_says", "picked_as", "changed", "scope", "disclosure", "beside", "sides", "figures", "runs"}}
	for _, p := range of.findings.Picked {
		row := findings.FoundRow{}
		if p.Now != nil {
			row = *p.Now
		}
		var sides, figures, runs []string
		for _, r := range row.Rests {
			sides, figures, runs = append(sides, r.Name), append(figures, r.Figure), append(runs, strings.Join(r.Runs, " "))
		}
		out = append(out, []string{p.Finding.Code, p.Says, p.Grade(), strings.Join(row.Because, "; "), row.Sentence, p.Finding.Original, p.Changed, row.Scope, strings.Join(row.Disclosure, "; "), strings.Join(row.Beside, " "),
			strings.Join(sides, "; "), strings.Join(figures, "; "), strings.Join(runs, "; ")})
	}
	return out
}
