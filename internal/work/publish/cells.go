package publish

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/say"
)

// cell is a side's figure with its interval and its evidence.
func cell(m contest.Measure, e contest.Estimate, currency string) string {
	if e.Value == nil {
		return strings.TrimSpace("not known. " + e.Note)
	}
	value, of := say.Figure, ""
	switch m.Kind {
	case contest.Share:
		value = say.Percent
		of = fmt.Sprintf("%s of %s, ", say.Whole(float64(*e.Events)), say.Whole(float64(e.Specimens)))
	case contest.Time:
		value = say.Duration
	case contest.Length:
		value = func(mm float64) string { return say.Figure(mm) + " mm" }
		if m.Signed {
			value = say.Micrometres
		}
	case contest.Level:
		value = func(v float64) string { return say.InUnit(say.Figure(v), m.Unit) }
	case contest.Score:
		of = "of 0 to 4, "
	case contest.Money:
		value = func(v float64) string { return fmt.Sprintf("%s %.2f", currency, v) }
	}
	text := value(*e.Value)
	switch {
	case e.UpperIfNone != nil:
		text = "none seen; up to " + value(*e.UpperIfNone)
	case e.CI != nil:
		text += fmt.Sprintf(" (%s to %s)", value(e.CI[0]), value(e.CI[1]))
	}
	text += fmt.Sprintf(", %s%s", of, e.From())
	if (m.Kind == contest.Length || m.Kind == contest.Score || m.Kind == contest.Level) && e.Note != "" {
		text += ". " + strings.TrimSpace(e.Note)
	}
	return text
}

// clock is a time that may not be known.
func clock(s *float64) string {
	if s == nil {
		return "not known"
	}
	return say.Duration(*s)
}

// unknowns names what an audit could not weigh.
func unknowns(r audit.CompareResult) string {
	var names []string
	for _, row := range r.Rows {
		if row.State == audit.Unknown && row.Weight != audit.None {
			names = append(names, strings.ToLower(audit.Label(row.Factor)))
		}
	}
	return say.List(names)
}

// factorNames are the factors under test as the audit calls them.
func factorNames(factors bench.IDs) (out []string) {
	for _, f := range factors {
		out = append(out, strings.ToLower(audit.Label(f)))
	}
	return out
}
