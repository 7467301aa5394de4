package upkeep

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// BathCard is a bath with its age: prints washed in it and days since it was
// filled afresh, and the share of its life where that is stated.
type BathCard struct {
	Bath   bench.Bath `json:"bath"`
	Prints int64      `json:"prints"`
	Days   float64    `json:"days"`
	Share  *float64   `json:"share"`
	State  string     `json:"state" enum:"fine,soon,due,unknown"`
}

var bathEntry = task.Entry[bench.Bath]{Table: "bath",
	Head: func(b *bench.Bath) task.Head {
		return task.Head{ID: &b.ID, Code: &b.Code, Version: &b.Version, CreatedMS: &b.CreatedMS}
	},
	Get: (*store.Tx).Bath, Put: (*store.Tx).SaveBath}

// Baths lists the baths with their age.
func (w *Tasks) Baths(ctx context.Context) ([]BathCard, error) {
	return task.ReadList(ctx, w.Base, w.ReadBaths)
}

// ReadBaths is Baths within a transaction.
func (w *Tasks) ReadBaths(t *store.Tx) ([]BathCard, error) {
	list, err := t.Baths()
	if err != nil {
		return nil, err
	}
	out := []BathCard{}
	for _, b := range list {
		card, err := w.bathCard(t, b)
		if err != nil {
			return nil, err
		}
		out = append(out, card)
	}
	return out, nil
}

func (w *Tasks) bathCard(t *store.Tx, b bench.Bath) (BathCard, error) {
	prints, err := t.WashedIn(b.ID, b.FilledMS)
	out := BathCard{Bath: b, Prints: prints, Days: float64(w.NowMS()-b.FilledMS) / quantity.DayMS, State: "unknown"}
	if b.LifePrints != nil {
		out.Share = quantity.Ptr(float64(prints) / float64(*b.LifePrints))
		out.State = machine.WornState(*out.Share)
	}
	return out, err
}

// SaveBath creates or changes a bath; a new one counts as filled now unless it
// says when.
func (w *Tasks) SaveBath(ctx context.Context, b bench.Bath) (out BathCard, err error) {
	if b.FilledMS == 0 {
		b.FilledMS = w.NowMS()
	}
	if err := bench.HasBeen("filled_ms", b.FilledMS, w.NowMS()); err != nil {
		return out, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (BathCard, error) {
		b, err := task.Put(w.Base, t, bathEntry, b)
		if err != nil {
			return BathCard{}, err
		}
		return w.bathCard(t, b)
	})
}

// Renewal is a bath that is filled afresh, and where the old filling went.
type Renewal struct {
	VolumeML *float64 `json:"volume_ml" required:"false" exclusiveMinimum:"0"`
	WentTo   string   `json:"went_to"`
}

// RenewBath fills a bath afresh. What was in it goes into the waste ledger.
func (w *Tasks) RenewBath(ctx context.Context, id string, r Renewal) (out BathCard, err error) {
	wasteID, err := w.NewID()
	if err != nil {
		return out, err
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		b, err := t.Bath(id)
		if err != nil {
			return err
		}
		old, err := w.bathCard(t, b)
		if err != nil {
			return err
		}
		if b.VolumeML != nil {
			line := bench.Waste{ID: wasteID, AtMS: w.NowMS(), Kind: "solvent", Amount: *b.VolumeML, BathID: &b.ID, WentTo: r.WentTo,
				Note: fmt.Sprintf("%s (%s) after %s", b.Name, b.Solvent, say.Counted(old.Prints, "print"))}
			if b.Solvent == "water" {
				line.Kind = "wash_water"
			}
			line.Unit = bench.WasteUnit(line.Kind)
			if err := t.SaveWaste(line); err != nil {
				return err
			}
		}
		b.FilledMS, b.Version = w.NowMS(), b.Version+1
		if r.VolumeML != nil {
			b.VolumeML = r.VolumeML
		}
		if err := t.SaveBath(b); err != nil {
			return err
		}
		out, err = w.bathCard(t, b)
		return err
	})
	return out, err
}

// WasteLedger is what was thrown away, the newest first, with totals by kind.
type WasteLedger struct {
	Lines  []bench.Waste `json:"lines"`
	Totals []WasteTotal  `json:"totals"`
	Rule   string        `json:"rule"`
}

// WasteTotal adds up one kind of waste.
type WasteTotal struct {
	Kind   string  `json:"kind"`
	Amount float64 `json:"amount"`
	Unit   string  `json:"unit"`
	Lines  int64   `json:"lines"`
}

// wasteRule stands with every line: the ledger records, it does not permit.
const wasteRule = "Cure scraps and wipes before they are thrown away; nothing goes down a drain. The resin's safety data sheet and local waste rules decide where each of these goes."

// Waste reads the waste ledger.
func (w *Tasks) Waste(ctx context.Context) (out WasteLedger, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = ledger(t)
		return err
	})
	return out, err
}

func ledger(t *store.Tx) (WasteLedger, error) {
	lines, err := t.Waste()
	out := WasteLedger{Lines: []bench.Waste{}, Totals: []WasteTotal{}, Rule: wasteRule}
	index := map[string]int{}
	for i := len(lines) - 1; i >= 0; i-- {
		l := lines[i]
		out.Lines = append(out.Lines, l)
		at, seen := index[l.Kind]
		if !seen {
			at = len(out.Totals)
			index[l.Kind], out.Totals = at, append(out.Totals, WasteTotal{Kind: l.Kind, Unit: l.Unit})
		}
		out.Totals[at].Amount += l.Amount
		out.Totals[at].Lines++
	}
	return out, err
}

// AddWaste appends a line to the waste ledger.
func (w *Tasks) AddWaste(ctx context.Context, l bench.Waste) (out WasteLedger, err error) {
	var c quantity.Checks
	c.Above("amount", l.Amount)
	if err := c.Err(); err != nil {
		return out, err
	}
	if l.ID, err = w.NewID(); err != nil {
		return out, err
	}
	if l.AtMS == 0 {
		l.AtMS = w.NowMS()
	}
	if err := bench.HasBeen("at_ms", l.AtMS, w.NowMS()); err != nil {
		return out, err
	}
	l.Unit = bench.WasteUnit(l.Kind)
	return task.Keep(ctx, w.Base, func(t *store.Tx) (WasteLedger, error) {
		if err := t.SaveWaste(l); err != nil {
			return WasteLedger{}, err
		}
		return ledger(t)
	})
}
