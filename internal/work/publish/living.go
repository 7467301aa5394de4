package publish

import (
	"slices"

	"ojime/internal/core/rating"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/reviews"
)

// lived is what living with a machine is like, under its name.
type lived struct {
	Machine string
	kit.Living
}

// livingOf is what living with the machines of a review is like, in the order of its set-ups.
func livingOf(t *store.Tx, setups []reviews.SetUp) (out []lived, err error) {
	var seen []string
	for _, s := range setups {
		if s.MachineID == "" || slices.Contains(seen, s.MachineID) {
			continue
		}
		seen = append(seen, s.MachineID)
		of, err := kit.LivingOf(t, s.MachineID)
		if err != nil {
			return nil, err
		}
		out = append(out, lived{s.Machine, of})
	}
	return out, nil
}

// livingTable is what the write-up says of living with machines: a column a machine, a row
// for each scale on which any was rated; nil where none was.
type livingTable struct {
	Machines []string
	Rows     []livingRow
}

type livingRow struct {
	Scale string
	Says  []string
}

func tableOf(machines []lived) *livingTable {
	var out livingTable
	for _, m := range machines {
		out.Machines = append(out.Machines, m.Machine)
	}
	for i, scale := range rating.OfMachines {
		row, rated := livingRow{Scale: scale.Name}, false
		for _, m := range machines {
			says := "not rated"
			if l := m.Scales[i].Lived; l != nil {
				says, rated = l.Says, true
			}
			row.Says = append(row.Says, says)
		}
		if rated {
			out.Rows = append(out.Rows, row)
		}
	}
	if len(out.Rows) == 0 {
		return nil
	}
	return &out
}

// machineRatingRows are the ratings of the machines of a review, also those taken back.
func machineRatingRows(of published) [][]string {
	out := [][]string{{"machine", "scale", "score", "anchor", "rater", "conditions", "note", "rated", "counts"}}
	for _, m := range of.living {
		for _, r := range slices.Backward(m.Ratings) {
			scale, known := rating.OfMachine(r.Scale)
			counts, anchor := "yes", ""
			if known {
				anchor = scale.Anchors[r.Score]
			}
			if r.TakenBackMS != nil {
				counts = "taken back: " + r.TakenBackWhy
			}
			out = append(out, []string{m.Machine, scale.Name, whole(&r.Score), anchor, r.Rater, r.Conditions, r.Note, say.Instant(r.AtMS), counts})
		}
	}
	return out
}
