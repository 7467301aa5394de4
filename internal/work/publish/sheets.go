package publish

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
)

// reviewRuns are the runs that serve a review and those that it leaves out, in order of
// their start.
func reviewRuns(reader *printing.Reader, review bench.Review, setups []reviews.SetUp) ([]printing.RunSheet, error) {
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
	out = slices.DeleteFunc(out, func(s printing.RunSheet) bool { return !serves(review, s) })
	slices.SortStableFunc(out, func(a, b printing.RunSheet) int {
		return cmp.Or(cmp.Compare(a.Run.StartedMS, b.Run.StartedMS), cmp.Compare(a.Run.ID, b.Run.ID))
	})
	return out, nil
}

// serves says that a print is of the review's machines, resins and pieces: one that was
// left out may be of such as the review no longer names.
func serves(review bench.Review, s printing.RunSheet) bool {
	return slices.Contains(review.MachineIDs, s.Machine.ID) && slices.Contains(review.ResinIDs, s.Resin.ID) &&
		slices.ContainsFunc(s.Specimens, func(x bench.Specimen) bool { return slices.Contains(review.PieceIDs, x.PieceID) })
}

// settingsLines tell each set of settings once, with all that shapes a print.
func settingsLines(sheets []printing.RunSheet) (out []string) {
	seen := map[string]bool{}
	for _, s := range sheets {
		if seen[s.Profile.ID] {
			continue
		}
		seen[s.Profile.ID] = true
		out = append(out, fmt.Sprintf("%s, %s with %s: %s.", s.Settings, s.Machine.Name, s.Resin.Name, strings.Join(kit.SettingsWords(s.Profile), "; ")))
	}
	return out
}

// conditionLines tell each print with its time, condition and what was seen.
func conditionLines(leftOut bench.LeftOutList, sheets []printing.RunSheet) (out []string) {
	codes := codesOf(sheets)
	for _, s := range sheets {
		words := []string{s.Printed, s.Settings}
		if took := s.Took.S; took != nil {
			words = append(words, "took "+say.Duration(*took))
		} else {
			words = append(words, "no time: "+s.Took.Reason)
		}
		words = append(words, printing.ConditionWords(s)...)
		line := fmt.Sprintf("%s on %s, %s: %s.", s.Run.Code, s.Machine.Name, say.Day(s.Run.StartedMS), strings.Join(words, "; "))
		if reason, left := leftOut.Reason(s.Run.ID); left {
			line += " Left out of the figures: " + reason
		}
		line += againWords(s.Run, codes)
		if s.Run.Notes != "" {
			line += " " + s.Run.Notes
		}
		out = append(out, line)
	}
	return out
}

// codesOf are the codes of prints by their ids.
func codesOf(sheets []printing.RunSheet) map[string]string {
	out := map[string]string{}
	for _, s := range sheets {
		out[s.Run.ID] = s.Run.Code
	}
	return out
}

// againWords say of which print one was made again and what was changed by hand, as a sentence
// after others; a print outside the review has no code there.
func againWords(r bench.Run, codes map[string]string) string {
	if r.AgainOfID == nil {
		return ""
	}
	of := codes[*r.AgainOfID]
	if of == "" {
		of = "a print outside this review"
	}
	if r.AgainChange == "" {
		return " It is " + of + " made again, nothing changed by hand."
	}
	return " It is " + of + " made again: " + r.AgainChange + "."
}
