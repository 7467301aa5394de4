package firstdays

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// LightOver is how even the light of a machine is: Now is the newest grid that still holds, nil
// where there is none, with what follows from it; Says is it in a sentence. Exposures are what the
// newest calibrated settings of each resin and layer height come to at the weakest place.
type LightOver struct {
	Now       *bench.LightGrid  `json:"now"`
	Even      *optics.Evenness  `json:"even"`
	Says      string            `json:"says"`
	Exposures []WeakExposure    `json:"exposures"`
	Grids     []bench.LightGrid `json:"grids"`
}

// WeakExposure is a calibrated exposure where the light is weakest: what it is worth there in
// seconds at the mean, and the seconds there that give the dose of the mean.
type WeakExposure struct {
	Settings  string  `json:"settings"`
	Resin     string  `json:"resin"`
	ExposureS float64 `json:"exposure_s"`
	WorthS    float64 `json:"worth_s"`
	NeededS   float64 `json:"needed_s"`
}

// LightOf is how even the light of a machine is.
func LightOf(t *store.Tx, machineID string) (LightOver, error) {
	out := LightOver{Exposures: []WeakExposure{}, Grids: []bench.LightGrid{}, Says: "Not measured over the plate."}
	if _, err := t.Machine(machineID); err != nil {
		return out, err
	}
	grids, err := t.LightGridsOfMachine(machineID)
	if err != nil || len(grids) == 0 {
		return out, err
	}
	out.Grids = append(out.Grids, grids...)
	events, err := t.EventsOfMachine(machineID)
	if err != nil {
		return out, err
	}
	i := len(grids) - 1
	for i >= 0 && grids[i].TakenBackMS != nil {
		i--
	}
	if i < 0 {
		return out, nil
	}
	newest := grids[i]
	for _, e := range events {
		ends := slices.ContainsFunc(bench.LightEnds, func(kind string) bool { return slices.Contains(e.Kinds, kind) })
		if e.RetiredMS == nil && ends && e.AtMS > newest.AtMS {
			out.Says = fmt.Sprintf("Measured on %s; the light was changed on %s, and was not measured since.", say.Day(newest.AtMS), say.Day(e.AtMS))
			return out, nil
		}
	}
	even, err := newest.Even()
	if err != nil {
		return out, fmt.Errorf("light of %s: %w", say.Day(newest.AtMS), err)
	}
	out.Now, out.Even, out.Says = &newest, &even, lightWords(newest, even)
	return out, out.expose(t, machineID)
}

// lightWords is a grid in a sentence, with how many readings and when.
func lightWords(g bench.LightGrid, e optics.Evenness) string {
	words := fmt.Sprintf("%s to %s %% of its mean", say.Figure(e.LeastPct), say.Figure(e.MostPct))
	if g.Unit != "" {
		words += fmt.Sprintf(" of %s %s", say.Figure(e.Mean), g.Unit)
	}
	words += fmt.Sprintf(" (%d × %d readings, %s", len(g.Readings[0]), len(g.Readings), say.Day(g.AtMS))
	if g.Meter != "" {
		words += ", " + g.Meter
	}
	return words + "); weakest " + e.Weakest.Where + "."
}

// expose works out what calibrated exposures come to at the weakest place.
func (l *LightOver) expose(t *store.Tx, machineID string) error {
	profiles, err := t.Profiles()
	if err != nil {
		return err
	}
	resins, err := kit.ResinNames(t)
	if err != nil {
		return err
	}
	newest := map[string]bench.Profile{}
	var order []string
	for _, p := range profiles {
		if p.MachineID != machineID || p.Basis != "calibrated" || p.ExposureS == nil || p.ArchivedMS != nil {
			continue
		}
		key := fmt.Sprint(p.ResinID, p.LayerUM)
		if _, known := newest[key]; !known {
			order = append(order, key)
		}
		newest[key] = p
	}
	for _, key := range order {
		p := newest[key]
		l.Exposures = append(l.Exposures, WeakExposure{Settings: kit.SettingsName(p), Resin: resins[p.ResinID], ExposureS: *p.ExposureS, WorthS: *p.ExposureS / l.Even.ToMean, NeededS: *p.ExposureS * l.Even.ToMean})
	}
	return nil
}

// Light reads how even the light of a machine is.
func (w *Tasks) Light(ctx context.Context, machineID string) (out LightOver, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = LightOf(t, machineID)
		return err
	})
	return out, err
}

// MeasureLight appends what a meter read over a plate, now or on the day that it says.
func (w *Tasks) MeasureLight(ctx context.Context, machineID string, g bench.LightGrid) (LightOver, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (LightOver, error) {
		if _, err := t.Machine(machineID); err != nil {
			return LightOver{}, err
		}
		if _, err := g.Even(); err != nil {
			return LightOver{}, err
		}
		if g.AtMS == 0 {
			g.AtMS = w.NowMS()
		}
		if err := bench.HasBeen("at_ms", g.AtMS, w.NowMS()); err != nil {
			return LightOver{}, err
		}
		var err error
		if g.ID, err = w.NewID(); err != nil {
			return LightOver{}, err
		}
		g.MachineID, g.TakenBackMS, g.TakenBackWhy = machineID, nil, ""
		if err := t.SaveLightGrid(g); err != nil {
			return LightOver{}, err
		}
		return LightOf(t, machineID)
	})
}

// TakeLightBack takes a grid back with the reason; the one before it counts again.
func (w *Tasks) TakeLightBack(ctx context.Context, machineID, gridID, why string) (LightOver, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (LightOver, error) {
		if strings.TrimSpace(why) == "" {
			return LightOver{}, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		known, err := LightOf(t, machineID)
		if err != nil {
			return known, err
		}
		i := slices.IndexFunc(known.Grids, func(g bench.LightGrid) bool { return g.ID == gridID && g.TakenBackMS == nil })
		if i < 0 {
			return known, fmt.Errorf("light grid %s of this machine: %w", gridID, bench.ErrNotFound)
		}
		g := known.Grids[i]
		g.TakenBackMS, g.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveLightGrid(g); err != nil {
			return known, err
		}
		return LightOf(t, machineID)
	})
}
