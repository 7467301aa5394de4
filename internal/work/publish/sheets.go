package publish

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/work/dataset"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// settingsLines tell each set of settings once, with all that shapes a print.
func settingsLines(sheets []*printing.RunSheet) (out []string) {
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
func conditionLines(leftOut bench.LeftOutList, sheets []*printing.RunSheet) (out []string) {
	codes := dataset.CodesOf(sheets)
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
