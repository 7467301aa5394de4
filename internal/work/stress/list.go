package stress

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/stress"
	"ojime/internal/store"
)

// Listed is a series as it stands in the list: how many specimens, how many of its tests are
// done, and how many failed.
type Listed struct {
	Series    bench.StressSeries `json:"series"`
	Kind      string             `json:"kind"`
	Mode      string             `json:"mode"`
	Specimens int                `json:"specimens"`
	Tests     int                `json:"tests"`
	Steps     int                `json:"steps"`
	Failed    int                `json:"failed"`
}

// All lists every series, the newest first.
func (w *Tasks) All(ctx context.Context) (out []Listed, err error) {
	out = []Listed{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		all, err := t.AllStressSeries()
		if err != nil {
			return err
		}
		for i := len(all) - 1; i >= 0; i-- {
			s := all[i]
			kind, _ := stress.KindOf(s.Kind)
			members, err := t.StressSpecimensOf(s.ID)
			if err != nil {
				return err
			}
			rows, err := t.StressTestsOf(s.ID)
			if err != nil {
				return err
			}
			row := Listed{Series: s, Kind: kind.Name, Mode: stress.ModeWords(s.Mode), Specimens: len(members)}
			plan, tests := s.Plan(), bench.ShownTests(rows)
			in := make([]stress.Specimen, len(members))
			for j, m := range members {
				in[j] = stress.Specimen{ID: m.SpecimenID, Level: m.Level}
			}
			row.Tests, row.Steps = len(tests), len(plan.Steps(in, tests))
			for _, test := range tests {
				if plan.Failed(test) {
					row.Failed++
				}
			}
			out = append(out, row)
		}
		return nil
	})
	return out, err
}
