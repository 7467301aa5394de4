package upkeep

import (
	"context"
	"fmt"
	"math"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
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

// soonShare is the share of a life from which a thing is soon due.
const soonShare = 0.85

// expiresSoonDays and emptySoonShare say when a bottle is named.
const (
	expiresSoonDays = 30
	emptySoonShare  = 0.15
)

func dueState(share float64) string {
	switch {
	case share >= 1:
		return "due"
	case share >= soonShare:
		return "soon"
	}
	return "fine"
}

// lightName is what a machine's source of light is called.
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

// upkeepAt is upkeep from memory for up to a minute of a record that stands still:
// days pass slowly, and every page of the bench asks.
func (w *Tasks) At(t *store.Tx, changes int64) (Upkeep, error) {
	return task.Recall(&w.Memory, changes, fmt.Sprint("upkeep ", w.NowMS()/60_000), func() (Upkeep, error) { return w.Compute(t) })
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
				Why: fmt.Sprintf("%d of %d prints washed, %.0f days old.", b.Prints, *b.Bath.LifePrints, b.Days)})
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
	events, err := t.EventsOfMachine(m.ID)
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
		d, err := w.due(t, m, events, r)
		if err != nil {
			return nil, err
		}
		out = append(out, d)
	}
	return out, nil
}

func (w *Tasks) due(t *store.Tx, m bench.Machine, events []bench.MachineEvent, r bench.Reminder) (Due, error) {
	since, known := int64(0), false
	for _, e := range events {
		if e.Kind == r.Kind {
			since, known = max(since, e.AtMS), true
		}
	}
	what := r.Kind
	if r.Kind == "panel" {
		what = LightName[m.LightEngine]
	}
	out := Due{Of: m.Name, What: what, State: "unknown", Source: r.Source, MachineID: m.ID, Knot: r.Kind, ReminderID: r.ID, Link: "/kit/machines/" + m.ID}
	used, err := t.UsedUntil(m.ID, since, w.NowMS())
	if err != nil {
		return out, err
	}
	from := "since it was last done"
	if !known {
		from = "on record; when it was last done is not known"
	}
	var amount float64
	switch r.Unit {
	case "layers":
		amount = float64(used.Layers)
		out.Why = fmt.Sprintf("%.0f of %.0f layers %s.", amount, r.Every, from)
	case "light_h":
		amount = used.LightS / 3600
		out.Why = fmt.Sprintf("%.1f of %.0f h lit %s.", amount, r.Every, from)
		if hidden := used.Runs - used.LightKnown; hidden > 0 {
			out.Why += fmt.Sprintf(" %d runs hide how long they were lit.", hidden)
			return out, nil
		}
	case "runs":
		amount = float64(used.Runs)
		out.Why = fmt.Sprintf("%.0f of %.0f prints %s.", amount, r.Every, from)
	case "days":
		if !known {
			out.Why = fmt.Sprintf("Every %.0f days; when it was last done is not known.", r.Every)
			return out, nil
		}
		amount = math.Floor(float64(w.NowMS()-since) / task.DayMS)
		out.Why = fmt.Sprintf("%.0f of %.0f days since it was last done.", amount, r.Every)
	}
	out.Share = quantity.Ptr(amount / r.Every)
	out.State = dueState(*out.Share)
	return out, nil
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
