package dataset

import (
	"cmp"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
)

// runsOf are the runs that serve a review and those that it leaves out, in order of
// their start.
func runsOf(reader *printing.Reader, review bench.Review, setups []reviews.SetUp) ([]*printing.RunSheet, error) {
	var ids []string
	for _, o := range review.LeftOut {
		ids = append(ids, o.RunID)
	}
	for _, s := range setups {
		for _, id := range s.RunIDs {
			// A print of several pieces belongs to a set-up of each.
			if !slices.Contains(ids, id) {
				ids = append(ids, id)
			}
		}
	}
	out, err := reader.Sheets(ids...)
	if err != nil {
		return nil, err
	}
	out = slices.DeleteFunc(out, func(s *printing.RunSheet) bool { return !serves(review, s) })
	slices.SortStableFunc(out, func(a, b *printing.RunSheet) int {
		return cmp.Or(cmp.Compare(a.Run.StartedMS, b.Run.StartedMS), cmp.Compare(a.Run.ID, b.Run.ID))
	})
	return out, nil
}

// serves says that a print is of the review's machines, resins and pieces: one that was
// left out may be of such as the review no longer names.
func serves(review bench.Review, s *printing.RunSheet) bool {
	return slices.Contains(review.MachineIDs, s.Machine.ID) && slices.Contains(review.ResinIDs, s.Resin.ID) &&
		slices.ContainsFunc(s.Specimens, func(x bench.Specimen) bool { return slices.Contains(review.PieceIDs, x.PieceID) })
}

// CodesOf are the codes of prints by their ids.
func CodesOf(sheets []*printing.RunSheet) map[string]string {
	out := map[string]string{}
	for _, s := range sheets {
		out[s.Run.ID] = s.Run.Code
	}
	return out
}
