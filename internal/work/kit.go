package work

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/optics"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

var machineEntry = entry[bench.Machine]{"machine",
	func(m *bench.Machine) head { return head{&m.ID, &m.Code, &m.Version, &m.CreatedMS} },
	(*store.Tx).Machine, (*store.Tx).SaveMachine}

var resinEntry = entry[bench.Resin]{"resin",
	func(r *bench.Resin) head { return head{&r.ID, &r.Code, &r.Version, &r.CreatedMS} },
	(*store.Tx).Resin, (*store.Tx).SaveResin}

var bottleEntry = entry[bench.Bottle]{"bottle",
	func(b *bench.Bottle) head { return head{&b.ID, &b.Code, &b.Version, &b.CreatedMS} },
	(*store.Tx).Bottle, (*store.Tx).SaveBottle}

var instrumentEntry = entry[bench.Instrument]{"instrument",
	func(i *bench.Instrument) head { return head{&i.ID, &i.Code, &i.Version, &i.CreatedMS} },
	(*store.Tx).Instrument, (*store.Tx).SaveInstrument}

var reviewEntry = entry[bench.Review]{"review",
	func(r *bench.Review) head { return head{&r.ID, &r.Code, &r.Version, &r.CreatedMS} },
	(*store.Tx).Review, (*store.Tx).SaveReview}

// MachineCard is a machine with what is computed from it: pitch (nil for a
// laser) and the same-equipment price (nil without a list price). Problem says
// what cannot be computed and why, empty where all can.
type MachineCard struct {
	Machine bench.Machine       `json:"machine"`
	Pitch   *optics.PitchResult `json:"pitch"`
	Price   *cost.PriceResult   `json:"price"`
	Problem string              `json:"problem"`
}

// ResinCard is a resin with its price, per litre too; nil with a Problem where
// that cannot be computed.
type ResinCard struct {
	Resin   bench.Resin       `json:"resin"`
	Price   *cost.PriceResult `json:"price"`
	Problem string            `json:"problem"`
}

// SaveMachine creates or changes a machine.
func (w *Work) SaveMachine(ctx context.Context, m bench.Machine) (MachineCard, error) {
	if m.CellExposure == "" {
		m.CellExposure = bench.CellsAlike
	}
	if err := m.Check(); err != nil {
		return MachineCard{}, err
	}
	return keep(ctx, w, func(t *store.Tx) (MachineCard, error) {
		m, err := put(w, t, machineEntry, m)
		if err != nil {
			return MachineCard{}, err
		}
		return machineCard(m)
	})
}

// Machines lists the machines with what is computed from each. What cannot be
// computed for one is left out of its card, which says why.
func (w *Work) Machines(ctx context.Context) ([]MachineCard, error) {
	machines, err := readList(ctx, w, (*store.Tx).Machines)
	out := make([]MachineCard, len(machines))
	for i, m := range machines {
		card, err := machineCard(m)
		card.Problem = problemOf(err, m)
		out[i] = card
	}
	return out, err
}

// problemOf says why something cannot be computed or shown of an entry that is on
// record; empty where all can.
func problemOf(err error, entry any) string {
	why := faults(err, entry)
	if len(why) == 0 {
		return ""
	}
	return "Part of this cannot be worked out as it stands on record (" + strings.Join(why, "; ") + "). Change the entry to mend it."
}

func machineCard(m bench.Machine) (MachineCard, error) {
	card := MachineCard{Machine: m}
	var err error
	if card.Pitch, err = pitchOf(m); err != nil {
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

// faults are what lies beyond the bounds of an entry, or else why it cannot be worked
// out, in words.
func faults(err error, entry any) (why []string) {
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

// pitchOf is the pitch of a machine's pixels, nil for one without.
func pitchOf(m bench.Machine) (*optics.PitchResult, error) {
	if m.PxX == nil || m.PxY == nil || m.LightEngine == bench.Laser {
		return nil, nil
	}
	pitch, err := optics.Pitch(optics.PitchInput{Panel: optics.Panel{WidthMM: m.WidthMM, DepthMM: m.DepthMM, PxX: *m.PxX, PxY: *m.PxY}})
	if err != nil {
		return nil, fmt.Errorf("pitch of %s: %w", m.Code, err)
	}
	return &pitch, nil
}

// AddEvent ties a knot on a machine's cord.
func (w *Work) AddEvent(ctx context.Context, e bench.MachineEvent) (bench.MachineEvent, error) {
	id, err := w.newID()
	if err != nil {
		return e, err
	}
	for i, c := range e.Changes {
		if c.What == "" {
			return e, quantity.Errorf(fmt.Sprintf("changes[%d].what", i), "is missing; name what changed")
		}
	}
	if err := bench.HasBeen("at_ms", e.AtMS, w.nowMS()); err != nil {
		return e, err
	}
	e.ID, e.CreatedMS = id, w.nowMS()
	return keep(ctx, w, func(t *store.Tx) (bench.MachineEvent, error) {
		if _, err := t.Machine(e.MachineID); err != nil {
			return e, err
		}
		return e, t.SaveMachineEvent(e)
	})
}

// SaveResin creates or changes a resin.
func (w *Work) SaveResin(ctx context.Context, r bench.Resin) (ResinCard, error) {
	if err := r.Check(); err != nil {
		return ResinCard{}, err
	}
	return keep(ctx, w, func(t *store.Tx) (ResinCard, error) {
		r, err := put(w, t, resinEntry, r)
		if err != nil {
			return ResinCard{}, err
		}
		return resinCard(r)
	})
}

// Resins lists the resins with their prices per litre, or why one has none.
func (w *Work) Resins(ctx context.Context) ([]ResinCard, error) {
	resins, err := readList(ctx, w, (*store.Tx).Resins)
	out := make([]ResinCard, len(resins))
	for i, r := range resins {
		card, err := resinCard(r)
		card.Problem = problemOf(err, r)
		out[i] = card
	}
	return out, err
}

func resinCard(r bench.Resin) (ResinCard, error) {
	card := ResinCard{Resin: r}
	price, err := cost.Price(cost.PriceInput{List: r.PriceList, Discount: &r.PriceDiscount, Shipping: &r.PriceShipping,
		TaxPct: &r.PriceTaxPct, TaxIncluded: &r.PriceTaxIncluded,
		Bottle: &cost.Bottle{ML: r.BottleML, G: r.BottleG, DensityGML: r.DensityGML}})
	if err == nil {
		card.Price = &price
	}
	return card, err
}

// SaveBottle creates or changes a bottle.
func (w *Work) SaveBottle(ctx context.Context, b bench.Bottle) (bench.Bottle, error) {
	if err := b.Check(); err != nil {
		return b, err
	}
	return save(ctx, w, bottleEntry, b)
}

// Bottles lists the bottles.
func (w *Work) Bottles(ctx context.Context) ([]bench.Bottle, error) {
	return readList(ctx, w, (*store.Tx).Bottles)
}

// SaveInstrument creates or changes an instrument.
func (w *Work) SaveInstrument(ctx context.Context, i bench.Instrument) (bench.Instrument, error) {
	return save(ctx, w, instrumentEntry, i)
}

// Instruments lists the instruments.
func (w *Work) Instruments(ctx context.Context) ([]bench.Instrument, error) {
	return readList(ctx, w, (*store.Tx).Instruments)
}

// Settings reads the reviewer's own figures.
func (w *Work) Settings(ctx context.Context) (out bench.Settings, err error) {
	err = w.store.Read(ctx, func(t *store.Tx) error {
		out, err = t.Settings()
		return err
	})
	return out, err
}

// SaveSettings changes the reviewer's own figures.
func (w *Work) SaveSettings(ctx context.Context, v bench.Settings) (bench.Settings, error) {
	if err := v.Check(); err != nil {
		return v, err
	}
	return keep(ctx, w, func(t *store.Tx) (bench.Settings, error) {
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

// SaveReview creates or changes a review; its members must exist.
func (w *Work) SaveReview(ctx context.Context, r bench.Review) (bench.Review, error) {
	return save(ctx, w, reviewEntry, r, func(t *store.Tx, r *bench.Review) error {
		if err := membersExist("machine_ids", r.MachineIDs, t.Machine); err != nil {
			return err
		}
		if err := membersExist("resin_ids", r.ResinIDs, t.Resin); err != nil {
			return err
		}
		return membersExist("piece_ids", r.PieceIDs, t.Piece)
	})
}

func membersExist[E any](field string, ids bench.IDs, get func(string) (E, error)) error {
	for _, id := range ids {
		if _, err := get(id); err != nil {
			return quantity.Errorf(field, "names %q, which cannot be found (%v)", id, err)
		}
	}
	return nil
}

// Reviews lists the reviews.
func (w *Work) Reviews(ctx context.Context) ([]bench.Review, error) {
	return readList(ctx, w, (*store.Tx).Reviews)
}

// Review reads one review.
func (w *Work) Review(ctx context.Context, id string) (bench.Review, error) {
	return readOne(ctx, w, id, (*store.Tx).Review)
}
