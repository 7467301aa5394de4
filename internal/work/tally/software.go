package tally

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
)

// PrintsOfProgram are the prints that were prepared with one program in one version, as it is
// written with them: how many are judged, and how many of those lost a copy or all. The print is
// the trial, since what a program did to a plate it did to all copies on it.
type PrintsOfProgram struct {
	Software string              `json:"software"`
	Prints   int64               `json:"prints"`
	Judged   int64               `json:"judged"`
	Lost     int64               `json:"lost"`
	LostRuns []string            `json:"lost_runs"`
	Rate     evidence.RateResult `json:"rate"`
	Says     string              `json:"says"`
}

// BySoftware are the prints of the whole record by their program, the most used first.
func (w *Tasks) BySoftware(ctx context.Context) (out []PrintsOfProgram, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		runs, err := t.Runs()
		if err != nil {
			return err
		}
		out, err = ProgramsOf(runs)
		return err
	})
	return out, err
}

// ProgramsOf are prints by their program. Those that a stand-in printed, and those that have not
// ended, are none.
func ProgramsOf(runs []bench.Run) ([]PrintsOfProgram, error) {
	at := map[string]int{}
	out := []PrintsOfProgram{}
	for _, r := range runs {
		name := strings.TrimSpace(quantity.Or(r.Software, ""))
		if name == "" || r.EndedMS == nil || r.SpeedUp != nil {
			continue
		}
		i, known := at[name]
		if !known {
			i, at[name] = len(out), len(out)
			out = append(out, PrintsOfProgram{Software: name, LostRuns: []string{}})
		}
		p := &out[i]
		p.Prints++
		if r.Shape == "open" {
			continue
		}
		p.Judged++
		if r.Shape == "split" || r.Shape == "ring" {
			p.Lost++
			p.LostRuns = append(p.LostRuns, r.Code)
		}
	}
	for i := range out {
		p := &out[i]
		slices.Sort(p.LostRuns)
		var err error
		if p.Rate, err = evidence.Rate(evidence.Count{Events: p.Lost, Trials: p.Judged}); err != nil {
			return nil, err
		}
		p.Says = p.words()
	}
	slices.SortStableFunc(out, func(a, b PrintsOfProgram) int { return int(b.Prints - a.Prints) })
	return out, nil
}

func (p PrintsOfProgram) words() string {
	text := fmt.Sprintf("%s, %s judged, %d of them lost a copy or all", say.Counted(p.Prints, "print"), say.Whole(float64(p.Judged)), p.Lost)
	if p.Rate.CI != nil {
		text += fmt.Sprintf(" (95 %%: %s to %s)", say.Percent(p.Rate.CI[0]), say.Percent(p.Rate.CI[1]))
	}
	return text
}
