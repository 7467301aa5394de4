package metrology

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// FitTry is one reading of a fit: the part that it was tried with, and what became of each
// clearance.
type FitTry struct {
	Mate  string
	Rungs []FitRung
}

// FitCell is what became of one clearance, in mm, with one mating part over all tries. Words
// are the outcomes with how often each was seen; empty where it was not tried.
type FitCell struct {
	RungMM float64 `json:"rung_mm"`
	Tried  int     `json:"tried"`
	Words  string  `json:"words"`
}

// FitRow is a mating part over all clearances of a fit. Says is from which clearance on it
// went, and up to which it held, over the tries.
type FitRow struct {
	Mate  string    `json:"mate"`
	Tries int       `json:"tries"`
	Cells []FitCell `json:"cells"`
	Says  string    `json:"says"`
}

// FitMatrix lays the tries of one fit out as mating parts by clearances, parts by name. Parts
// are never brought together: each has its own size.
func FitMatrix(rungsMM []float64, tries []FitTry) []FitRow {
	rows := []FitRow{}
	for _, mate := range matesOf(tries) {
		row := FitRow{Mate: mate, Cells: make([]FitCell, len(rungsMM))}
		var tightest, loosest []float64
		counts := make([]map[string]int, len(rungsMM))
		for i, mm := range rungsMM {
			row.Cells[i].RungMM, counts[i] = mm, map[string]int{}
		}
		for _, t := range tries {
			if t.Mate != mate {
				continue
			}
			row.Tries++
			for _, r := range t.Rungs {
				if i := slices.Index(rungsMM, r.RungMM); i >= 0 {
					row.Cells[i].Tried++
					counts[i][r.Outcome]++
				}
			}
			limits := LimitsOf(t.Rungs)
			tightest, loosest = appendKnown(tightest, limits.TightestMM), appendKnown(loosest, limits.LoosestMM)
		}
		for i := range row.Cells {
			row.Cells[i].Words = outcomeWords(counts[i])
		}
		row.Says = fmt.Sprintf("tightest that goes %s, loosest that holds %s", spread(tightest, row.Tries), spread(loosest, row.Tries))
		rows = append(rows, row)
	}
	return rows
}

func matesOf(tries []FitTry) (out []string) {
	for _, t := range tries {
		if !slices.Contains(out, t.Mate) {
			out = append(out, t.Mate)
		}
	}
	slices.Sort(out)
	return out
}

func appendKnown(list []float64, v *float64) []float64 {
	if v == nil {
		return list
	}
	return append(list, quantity.Or(v, 0))
}

// fitWords are the outcomes of a clearance as they are said.
var fitWords = map[string]string{"no": "does not go", "tight": "tight", "holds": "holds", "loose": "loose"}

// outcomeWords are the outcomes with how often each was seen, where they are not one.
func outcomeWords(counts map[string]int) string {
	var words []string
	for _, o := range FitOutcomes {
		if counts[o] > 0 {
			words = append(words, fmt.Sprintf("%s %d", fitWords[o], counts[o]))
		}
	}
	return strings.Join(words, ", ")
}

// spread is where limits lie over tries, with how many have none.
func spread(mm []float64, tries int) string {
	if len(mm) == 0 {
		return "none"
	}
	low, high := slices.Min(mm), slices.Max(mm)
	out := say.Figure(low)
	if high > low {
		out += " to " + say.Figure(high)
	}
	out += " mm"
	if none := tries - len(mm); none > 0 {
		out += fmt.Sprintf(" (none in %d of %d)", none, tries)
	}
	return out
}
