package publish

// interests say what somebody who claims something gains by it.
var interests = map[string]string{"maker": "its maker", "seller": "sells it", "paid": "was paid to say so", "competitor": "sells another", "owner": "owns one", "none": "gains nothing by it", "unknown": "interest not known"}

// claimRows are the ledger of a review: each claim with what became of it.
func claimRows(of published) [][]string {
	out := [][]string{{"claim", "of", "words", "number", "base", "source", "interest", "test", "state", "judged", "measured"}}
	for _, r := range of.claims.Rows {
		code, judged := "", "false"
		if r.Claim != nil {
			code = r.Claim.Code
		}
		if r.Judged {
			judged = "true"
		}
		out = append(out, []string{code, r.Subject, r.Words, r.Number, r.Base, r.Source, interests[r.Interest], r.Test, r.State, judged, r.Says})
	}
	return out
}
