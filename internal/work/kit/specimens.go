package kit

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// SpecimenPlace is where the page of a specimen is.
type SpecimenPlace struct {
	Specimen bench.Specimen `json:"specimen"`
	Run      string         `json:"run"`
}

// SpecimenPlace finds a specimen by the code on its label.
func (w *Tasks) SpecimenPlace(ctx context.Context, code string) (out SpecimenPlace, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if out.Specimen, err = t.SpecimenByCode(code); err != nil {
			return err
		}
		run, err := t.Run(out.Specimen.RunID)
		out.Run = run.Code
		return err
	})
	return out, err
}
