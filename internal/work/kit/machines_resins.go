package kit

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

var machineEntry = task.Entry[bench.Machine]{Table: "machine",
	Head: func(m *bench.Machine) task.Head {
		return task.Head{ID: &m.ID, Code: &m.Code, Version: &m.Version, CreatedMS: &m.CreatedMS}
	},
	Get: (*store.Tx).Machine, Put: (*store.Tx).SaveMachine}

var resinEntry = task.Entry[bench.Resin]{Table: "resin",
	Head: func(r *bench.Resin) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Resin, Put: (*store.Tx).SaveResin}

var bottleEntry = task.Entry[bench.Bottle]{Table: "bottle",
	Head: func(b *bench.Bottle) task.Head {
		return task.Head{ID: &b.ID, Code: &b.Code, Version: &b.Version, CreatedMS: &b.CreatedMS}
	},
	Get: (*store.Tx).Bottle, Put: (*store.Tx).SaveBottle}

// MachineCard is a machine with what is computed from it: pitch (nil for a
// laser) and the same-equipment price (nil without a list price). Problem says
// what cannot be computed and why, empty where all can.
type MachineCard struct {
	Machine bench.Machine       `json:"machine"`
	Pitch   *optics.PitchResult `json:"pitch"`
	Price   *cost.PriceResult   `json:"price"`
	Problem string              `json:"problem"`
	// Usable is what may be used of its plate; nil where nobody looked.
	Usable *bench.Usable `json:"usable"`
}

// ResinCard is a resin with its price, per litre too; nil with a Problem where
// that cannot be computed.
type ResinCard struct {
	Resin   bench.Resin       `json:"resin"`
	Price   *cost.PriceResult `json:"price"`
	Problem string            `json:"problem"`
}

// SaveMachine creates or changes a machine.
func (w *Tasks) SaveMachine(ctx context.Context, m bench.Machine) (MachineCard, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (MachineCard, error) { return w.SaveMachineIn(t, m) })
}

// SaveMachineIn is SaveMachine within a transaction.
func (w *Tasks) SaveMachineIn(t *store.Tx, m bench.Machine) (MachineCard, error) {
	if m.CellExposure == "" {
		m.CellExposure = bench.CellsAlike
	}
	if err := m.Check(); err != nil {
		return MachineCard{}, err
	}
	m, err := task.Put(w.Base, t, machineEntry, m)
	if err != nil {
		return MachineCard{}, err
	}
	return CardOfMachine(m)
}

// Machines lists the machines with what is computed from each. What cannot be
// computed for one is left out of its card, which says why.
func (w *Tasks) Machines(ctx context.Context) (out []MachineCard, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		machines, err := t.Machines()
		if err != nil {
			return err
		}
		surveys, err := t.PlateSurveys()
		if err != nil {
			return err
		}
		out = make([]MachineCard, len(machines))
		for i, m := range machines {
			card, err := CardOfMachine(m)
			card.Problem = problemOf(err, m)
			if slices.ContainsFunc(surveys, func(s bench.PlateSurvey) bool { return s.MachineID == m.ID && s.TakenBackMS == nil }) {
				usable, err := UsableOf(t, m)
				if err != nil {
					return err
				}
				card.Usable = &usable
			}
			out[i] = card
		}
		return nil
	})
	return out, err
}

// problemOf says why something cannot be computed or shown of an entry that is on
// record; empty where all can.
func problemOf(err error, entry any) string {
	why := Faults(err, entry)
	if len(why) == 0 {
		return ""
	}
	return "Part of this cannot be worked out as it stands on record (" + strings.Join(why, "; ") + "). Change the entry to mend it."
}

// CardOfMachine works out what follows from a machine.
func CardOfMachine(m bench.Machine) (MachineCard, error) {
	card := MachineCard{Machine: m}
	var err error
	if card.Pitch, err = PitchOf(m); err != nil {
		return card, err
	}
	if m.PriceList != nil {
		price, err := cost.Price(cost.PriceInput{List: *m.PriceList, Discount: &m.PriceDiscount, Shipping: &m.PriceShipping,
			TaxPct: &m.PriceTaxPct, TaxIncluded: &m.PriceTaxIncluded, Extras: []cost.Extra{{Name: "equipment", Price: m.PriceExtras}}})
		if err != nil {
			return card, err
		}
		card.Price = &price
	}
	return card, nil
}

// Faults are what lies beyond the bounds of an entry, or else why it cannot be worked
// out, in words.
func Faults(err error, entry any) (why []string) {
	for _, beyond := range bench.Beyond(entry) {
		why = append(why, inWords(beyond))
	}
	if err != nil && len(why) == 0 {
		why = append(why, inWords(err))
	}
	return why
}

// inWords says a field's error as a sentence: price list is ...
func inWords(err error) string {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return strings.ReplaceAll(field.Path, "_", " ") + " " + field.Message
	}
	return err.Error()
}

// PitchOf is the pitch of a machine's pixels, nil for one without.
func PitchOf(m bench.Machine) (*optics.PitchResult, error) {
	if m.PxX == nil || m.PxY == nil || m.LightEngine == bench.Laser {
		return nil, nil
	}
	pitch, err := optics.Pitch(optics.PitchInput{Panel: optics.Panel{WidthMM: m.WidthMM, DepthMM: m.DepthMM, PxX: *m.PxX, PxY: *m.PxY}})
	if err != nil {
		return nil, fmt.Errorf("pitch of %s: %w", m.Code, err)
	}
	return &pitch, nil
}

// SaveResin creates or changes a resin.
func (w *Tasks) SaveResin(ctx context.Context, r bench.Resin) (ResinCard, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (ResinCard, error) { return w.SaveResinIn(t, r) })
}

// SaveResinIn is SaveResin within a transaction.
func (w *Tasks) SaveResinIn(t *store.Tx, r bench.Resin) (ResinCard, error) {
	if err := r.Check(); err != nil {
		return ResinCard{}, err
	}
	r, err := task.Put(w.Base, t, resinEntry, r)
	if err != nil {
		return ResinCard{}, err
	}
	return CardOfResin(r)
}

// Resins lists the resins with their prices per litre, or why one has none.
func (w *Tasks) Resins(ctx context.Context) ([]ResinCard, error) {
	resins, err := task.ReadList(ctx, w.Base, (*store.Tx).Resins)
	out := make([]ResinCard, len(resins))
	for i, r := range resins {
		card, err := CardOfResin(r)
		card.Problem = problemOf(err, r)
		out[i] = card
	}
	return out, err
}

// CardOfResin works out what follows from a resin.
func CardOfResin(r bench.Resin) (ResinCard, error) {
	card := ResinCard{Resin: r}
	price, err := cost.Price(PriceOfResin(r))
	if err == nil {
		card.Price = &price
	}
	return card, err
}

// PriceOfResin is the price that a resin's page has, from which costs are worked out.
func PriceOfResin(r bench.Resin) cost.PriceInput {
	return cost.PriceInput{List: r.PriceList, Discount: &r.PriceDiscount, Shipping: &r.PriceShipping, TaxPct: &r.PriceTaxPct, TaxIncluded: &r.PriceTaxIncluded,
		Bottle: &cost.Bottle{ML: r.BottleML, G: r.BottleG, DensityGML: r.DensityGML}}
}

// SaveBottle creates or changes a bottle.
func (w *Tasks) SaveBottle(ctx context.Context, b bench.Bottle) (bench.Bottle, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Bottle, error) { return w.SaveBottleIn(t, b) })
}

// SaveBottleIn is SaveBottle within a transaction.
func (w *Tasks) SaveBottleIn(t *store.Tx, b bench.Bottle) (bench.Bottle, error) {
	if err := b.Check(); err != nil {
		return b, err
	}
	return task.Put(w.Base, t, bottleEntry, b)
}

// Bottles lists the bottles.
func (w *Tasks) Bottles(ctx context.Context) ([]bench.Bottle, error) {
	return task.ReadList(ctx, w.Base, (*store.Tx).Bottles)
}

// Settings reads the reviewer's own figures.
func (w *Tasks) Settings(ctx context.Context) (out bench.Settings, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = t.Settings()
		return err
	})
	return out, err
}

// SaveSettings changes the reviewer's own figures.
func (w *Tasks) SaveSettings(ctx context.Context, v bench.Settings) (bench.Settings, error) {
	if err := v.Check(); err != nil {
		return v, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Settings, error) {
		old, err := t.Settings()
		if err != nil {
			return v, err
		}
		if old.Version != v.Version {
			return v, bench.ErrStale
		}
		v.ID, v.Version = old.ID, old.Version+1
		return v, t.SaveSettings(v)
	})
}
