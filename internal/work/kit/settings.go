package kit

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// ExposureRatio is the profile's exposure over the newest calibrated one of the
// same machine, resin and layer height; nil where there is none.
func ExposureRatio(t *store.Tx, p bench.Profile) (*float64, error) {
	profiles, err := t.Profiles()
	if err != nil || p.ExposureS == nil {
		return nil, err
	}
	var out *float64
	for _, other := range profiles {
		if other.Basis == "calibrated" && other.MachineID == p.MachineID && other.ResinID == p.ResinID && quantity.Equal(other.LayerUM, p.LayerUM) && other.ExposureS != nil {
			out = quantity.Ptr(*p.ExposureS / *other.ExposureS)
		}
	}
	return out, nil
}

func profileName(p bench.Profile) string { return p.Code + " (" + p.Basis + ")" }

// AddProfile keeps a set of settings that did not come from a series.
func (w *Tasks) AddProfile(ctx context.Context, p bench.Profile) (bench.Profile, error) {
	if p.Basis == "calibrated" {
		return p, quantity.Errorf("basis", "calibrated comes from accepting a series; choose default, borrowed or sealed")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Profile, error) {
		err := w.KeepProfile(t, &p)
		return p, err
	})
}

// KeepProfile checks, numbers and keeps new settings.
func (w *Tasks) KeepProfile(t *store.Tx, p *bench.Profile) error {
	if err := p.Check(); err != nil {
		return err
	}
	var err error
	if p.ID, err = w.NewID(); err != nil {
		return err
	}
	number, err := t.NextNumber("profile")
	if err != nil {
		return err
	}
	p.Code, p.CreatedMS = bench.Code("profile", number), w.NowMS()
	return t.SaveProfile(*p)
}

// Profiles lists the profiles.
func (w *Tasks) Profiles(ctx context.Context) ([]bench.Profile, error) {
	return task.ReadList(ctx, w.Base, (*store.Tx).Profiles)
}
