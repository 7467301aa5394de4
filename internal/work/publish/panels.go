package publish

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
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
