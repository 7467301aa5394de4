package inspect

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"strconv"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// BlankTable is a table of what is still to be read on a print, to be filled in elsewhere and
// brought in again: a row for each size, rung and checkpoint of each copy that still has its
// detail.
func (w *Tasks) BlankTable(ctx context.Context, runID string) (name string, data []byte, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		s, err := ratedSheet(t, runID)
		if err != nil {
			return err
		}
		if s.Reference != nil {
			return fmt.Errorf("run %s: %w", runID, bench.ErrNotFound)
		}
		name = s.Run.Code + "-readings.csv"
		rows := [][]string{{"specimen", "feature", "nominal_mm", "value_mm", "rung_mm", "intact", "state"}}
		read := map[string]bool{}
		key := func(specimen, feature string, rung float64) string { return fmt.Sprint(specimen, feature, rung) }
		for _, r := range s.Readings {
			read[key(r.SpecimenID, r.FeatureID, quantity.Or(r.RungMM, 0))] = true
		}
		size := func(mm float64) string { return strconv.FormatFloat(mm, 'f', -1, 64) }
		for _, p := range s.Specimens {
			for _, f := range s.Features {
				if p.SetAside() || f.RetiredMS != nil || f.PieceID != p.PieceID {
					continue
				}
				rungs := f.RungsMM
				if len(rungs) == 0 {
					rungs = bench.Sizes{0}
				}
				for _, rung := range rungs {
					if read[key(p.ID, f.ID, rung)] {
						continue
					}
					row := []string{p.Code, f.Name, "", "", "", "", ""}
					if f.NominalMM != nil {
						row[2] = size(*f.NominalMM)
					}
					if rung > 0 {
						row[4] = size(rung)
					}
					rows = append(rows, row)
				}
			}
		}
		var out bytes.Buffer
		if err := csv.NewWriter(&out).WriteAll(rows); err != nil {
			return fmt.Errorf("write the table: %w", err)
		}
		data = out.Bytes()
		return nil
	})
	return name, data, err
}
