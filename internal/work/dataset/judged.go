package dataset

import (
	"strings"

	"ojime/internal/work/findings"
)

// Interests say what somebody who claims something gains by it.
var Interests = map[string]string{"maker": "its maker", "seller": "sells it", "paid": "was paid to say so", "competitor": "sells another", "owner": "owns one", "none": "gains nothing by it", "unknown": "interest not known"}

// claimRows are the ledger of a review: each claim with what became of it.
func claimRows(of Source) [][]string {
	out := [][]string{{"claim", "of", "words", "number", "base", "source", "interest", "test", "state", "judged", "measured"}}
	for _, r := range of.Claims.Rows {
		code, judged := "", "false"
		if r.Claim != nil {
			code = r.Claim.Code
		}
		if r.Judged {
			judged = "true"
		}
		out = append(out, []string{code, r.Subject, r.Words, r.Number, r.Base, r.Source, Interests[r.Interest], r.Test, r.State, judged, r.Says})
	}
	return out
}

// findingRows are the findings of a review in its order: what is published, what the record gives, and what it rests on.
func findingRows(of Source) [][]string {
	out := [][]string{{"finding", "says", "grade", "because", "record_says", "picked_as", "changed", "scope", "disclosure", "beside", "sides", "figures", "runs"}}
	for _, p := range of.Findings.Picked {
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
