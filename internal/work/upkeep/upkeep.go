package upkeep

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Due is one thing that wears or comes round again, with what the record knows
// of it. Share is used over life, nil where it cannot be known.
type Due struct {
	Of         string   `json:"of"`
	What       string   `json:"what"`
	State      string   `json:"state" enum:"fine,soon,due,unknown"`
	Share      *float64 `json:"share"`
	Why        string   `json:"why"`
	Source     string   `json:"source"`
	MachineID  string   `json:"machine_id"`
	Knot       string   `json:"knot"`
	ReminderID string   `json:"reminder_id"`
	Link       string   `json:"link"`
}

// Upkeep is what wears, what is due, and the reminders behind it.
type Upkeep struct {
	Due       []Due            `json:"due"`
	Reminders []bench.Reminder `json:"reminders"`
	Baths     []BathCard       `json:"baths"`
}

// LightName is what a machine's source of light is called.
var LightName = map[string]string{"masked_lcd": "panel", "projector": "projector", "laser": "laser"}

// Upkeep reads what wears and what is due.
func (w *Tasks) Upkeep(ctx context.Context) (out Upkeep, err error) {
	at := w.Store.Changes()
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.At(t, at)
		return err
	})
	return out, err
}

type upkeepKey struct{ minute int64 }

// At is upkeep from memory for up to a minute of a record that stands still:
// days pass slowly, and every page of the bench asks.
func (w *Tasks) At(t *store.Tx, changes int64) (Upkeep, error) {
	return task.Recall(&w.Memory, changes, upkeepKey{w.NowMS() / 60_000}, func() (Upkeep, error) { return w.Compute(t) })
}

// Compute works out what wears and what is due, within a transaction.
func (w *Tasks) Compute(t *store.Tx) (out Upkeep, err error) {
	out.Due = []Due{}
	if out.Reminders, err = t.Reminders(); err != nil {
		return out, err
	}
	machines, err := t.Machines()
	if err != nil {
		return out, err
	}
	for _, m := range machines {
		due, err := w.machineDue(t, m, out.Reminders)
		if err != nil {
			return out, err
		}
		out.Due = append(out.Due, due...)
	}
	bottles, err := w.bottlesDue(t)
	if err != nil {
		return out, err
	}
	out.Due = append(out.Due, bottles...)
	if out.Baths, err = w.ReadBaths(t); err != nil {
		return out, err
	}
	for _, b := range out.Baths {
		if b.Share != nil {
			out.Due = append(out.Due, Due{Of: b.Bath.Name, What: "bath", State: b.State, Share: b.Share, Source: "own", Link: "/upkeep",
				Why: fmt.Sprintf("%d of %s washed, %s old.", b.Prints, say.Counted(*b.Bath.LifePrints, "print"), say.Counted(int64(b.Days), "day"))})
		}
	}
	slices.SortStableFunc(out.Due, func(a, b Due) int {
		x, y := quantity.Or(a.Share, -1), quantity.Or(b.Share, -1)
		switch {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return 0
	})
	return out, nil
}

// machineDue holds a machine's lives and reminders against its use since the
// last knot of each kind.
func (w *Tasks) machineDue(t *store.Tx, m bench.Machine, reminders []bench.Reminder) ([]Due, error) {
	history, err := kit.HistoryOf(t, m.ID)
	if err != nil {
		return nil, err
	}
	var asked []bench.Reminder
	if m.FilmLifeLayers != nil {
		asked = append(asked, bench.Reminder{Kind: "film", Every: *m.FilmLifeLayers, Unit: "layers", Source: "stated life"})
	}
	if m.LightLifeH != nil {
		asked = append(asked, bench.Reminder{Kind: "panel", Every: *m.LightLifeH, Unit: "light_h", Source: "stated life"})
	}
	for _, r := range reminders {
		if r.MachineID == m.ID && r.ContradictedMS == nil {
			asked = append(asked, r)
		}
	}
	out := []Due{}
	for _, r := range asked {
		out = append(out, w.due(m, history, r))
	}
	return out, nil
}

func (w *Tasks) due(m bench.Machine, history machine.History, r bench.Reminder) Due {
	now := w.NowMS()
	what := r.Kind
	if r.Kind == machine.Panel {
		what = LightName[m.LightEngine]
	}
	out := Due{Of: m.Name, What: what, State: "unknown", Source: r.Source, MachineID: m.ID, Knot: r.Kind, ReminderID: r.ID, Link: "/kit/machines/" + m.ID}
	since := history.Last(r.Kind, now)
	var amount *float64
	switch r.Unit {
	case "layers":
		amount, out.Why = w.worn(history, r, now, "layers", func(h machine.History, at int64) machine.Wear {
			if r.Kind == machine.Film {
				return h.FilmWear(at)
			}
			return h.Since(r.Kind, at, machine.LayersTook)
		})
	case "light_h":
		amount, out.Why = w.worn(history, r, now, "h lit", func(h machine.History, at int64) machine.Wear {
			if r.Kind == machine.Panel {
				return h.LightWear(at)
			}
			return h.Since(r.Kind, at, machine.LightTook)
		})
	case "runs":
		if since == nil {
			out.Why = fmt.Sprintf("Every %s; when it was last done is not known.", say.Counted(int64(r.Every), "print"))
			break
		}
		amount = quantity.Ptr(float64(history.PrintsSince(*since, now)))
		out.Why = fmt.Sprintf("%s of %s since it was last done.", say.Whole(*amount), say.Counted(int64(r.Every), "print"))
	case "days":
		if since == nil {
			out.Why = fmt.Sprintf("Every %s; when it was last done is not known.", say.Counted(int64(r.Every), "day"))
			break
		}
		amount = quantity.Ptr(quantity.WholeDays(now - *since))
		out.Why = fmt.Sprintf("%s of %s since it was last done.", say.Whole(*amount), say.Counted(int64(r.Every), "day"))
	}
	if amount == nil {
		return out
	}
	out.Share = quantity.Ptr(*amount / r.Every)
	out.State = machine.WornState(*out.Share)
	return out
}

// worn is an amount of wear and the sentence on it.
func (w *Tasks) worn(h machine.History, r bench.Reminder, now int64, unit string, of func(machine.History, int64) machine.Wear) (*float64, string) {
	wear := of(h, now)
	amount := wear.Amount
	if amount == nil && wear.AtLeast >= r.Every { // more than its life for certain
		amount = &wear.AtLeast
	}
	return amount, WearWords(wear, unit, &r.Every)
}

// WearWords says what a part has seen, of what life, and from what that is known.
func WearWords(w machine.Wear, unit string, life *float64) string {
	number := say.Figure
	if unit == "layers" {
		number = say.Whole
	}
	words := number(w.AtLeast) + " " + unit
	if w.Amount == nil {
		words = "At least " + words
	}
	if life != nil {
		words += " of a stated life of " + number(*life)
	}
	prints := say.Counted(w.Prints, "print")
	switch {
	case w.SinceMS == nil:
		words += ", by all " + prints + " on record; what it had seen before is not known"
	case w.Reading:
		words += ", by its counter of " + say.Day(*w.SinceMS) + " and " + prints + " since"
	case w.Amount == nil && w.Hidden == 0:
		words += ", by " + prints + " since " + say.Day(*w.SinceMS) + "; what it had seen before is not known"
	default:
		words += ", by " + prints + " since it was put in on " + say.Day(*w.SinceMS)
	}
	if w.Hidden > 0 {
		words += "; " + say.Counted(w.Hidden, "print") + " of them hide how long they were lit"
	}
	if w.Beside > 0 {
		words += fmt.Sprintf(". Its counter had gained %s %s beyond the prints on record: it was used beside them", number(w.Beside), unit)
	}
	return words + "."
}

// SaveReminder records a reminder, or amends or contradicts it where it has an id.
func (w *Tasks) SaveReminder(ctx context.Context, r bench.Reminder) (out Upkeep, err error) {
	var c quantity.Checks
	c.Above("every", r.Every)
	if err := c.Err(); err != nil {
		return out, err
	}
	err = w.Store.Write(ctx, func(t *store.Tx) error {
		if r.ID == "" {
			r.CreatedMS = w.NowMS()
			if r.ID, err = w.NewID(); err != nil {
				return err
			}
		} else {
			old, err := t.Reminder(r.ID)
			if err != nil {
				return err
			}
			r.CreatedMS, r.ContradictedMS = old.CreatedMS, old.ContradictedMS
		}
		switch {
		case r.Contradiction == "":
			r.ContradictedMS = nil
		case r.ContradictedMS == nil:
			r.ContradictedMS = quantity.Ptr(w.NowMS())
		}
		if err := t.SaveReminder(r); err != nil {
			return err
		}
		out, err = w.Compute(t)
		return err
	})
	return out, err
}
