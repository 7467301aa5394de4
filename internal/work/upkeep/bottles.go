package upkeep

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// BottleCard is a bottle with what is left in it: from the last weighing where
// there is one, else from its size, less what runs used since. LeftML is nil
// with a reason where that cannot be known.
type BottleCard struct {
	Bottle bench.Bottle        `json:"bottle"`
	Events []bench.BottleEvent `json:"events"`
	LeftML *float64            `json:"left_ml"`
	Share  *float64            `json:"share"`
	From   string              `json:"from"`
	Reason string              `json:"reason"`
}

// sizeML is what a full bottle of a resin holds, nil where it is sold by mass
// and its density is not known.
func sizeML(r bench.Resin) *float64 {
	if r.BottleML != nil {
		return r.BottleML
	}
	if r.DensityGML == nil || r.BottleG == nil {
		return nil
	}
	return quantity.Ptr(*r.BottleG / *r.DensityGML)
}

// CardOfBottle says what a bottle holds and how old it is.
func CardOfBottle(t *store.Tx, b bench.Bottle, r bench.Resin) (BottleCard, error) {
	events, err := t.EventsOfBottle(b.ID)
	if err != nil {
		return BottleCard{}, err
	}
	return CardWithEvents(t, b, r, events)
}

// CardWithEvents is CardOfBottle where its events are at hand.
func CardWithEvents(t *store.Tx, b bench.Bottle, r bench.Resin, events []bench.BottleEvent) (BottleCard, error) {
	out := BottleCard{Bottle: b, Events: events}
	of := resin.Bottle{SizeML: sizeML(r), TareG: b.TareG, DensityGML: r.DensityGML}
	for _, e := range events {
		of.Events = append(of.Events, resin.BottleEvent{Kind: e.Kind, AtMS: e.AtMS, ML: e.ML, GrossG: e.GrossG})
	}
	used, err := t.BottleUse(b.ID, of.CountedFrom())
	if err != nil {
		return out, err
	}
	holds := of.Content(resin.BottleUse{Prints: used.Runs, Noted: used.Noted, UsedG: used.UsedG})
	out.LeftML, out.Share, out.From, out.Reason = holds.LeftML, holds.Share, holds.From, holds.Reason
	return out, nil
}

// BottleCards lists the bottles with what is left in each.
func (w *Tasks) BottleCards(ctx context.Context) ([]BottleCard, error) {
	return task.ReadList(ctx, w.Base, bottleCards)
}

func bottleCards(t *store.Tx) ([]BottleCard, error) {
	bottles, err := t.Bottles()
	if err != nil {
		return nil, err
	}
	all, err := t.BottleEvents()
	if err != nil {
		return nil, err
	}
	events := map[string][]bench.BottleEvent{}
	for _, e := range all {
		events[e.BottleID] = append(events[e.BottleID], e)
	}
	out, resin := []BottleCard{}, task.Memoise(t.Resin)
	for _, b := range bottles {
		r, err := resin(b.ResinID)
		if err != nil {
			return nil, err
		}
		if events[b.ID] == nil {
			events[b.ID] = []bench.BottleEvent{}
		}
		card, err := CardWithEvents(t, b, r, events[b.ID])
		if err != nil {
			return nil, err
		}
		out = append(out, card)
	}
	return out, nil
}

// bottlesDue names bottles that expire soon or are nearly empty. An emptied one
// is done with.
func (w *Tasks) bottlesDue(t *store.Tx) ([]Due, error) {
	cards, err := bottleCards(t)
	if err != nil {
		return nil, err
	}
	out := []Due{}
	for _, c := range cards {
		if n := len(c.Events); n > 0 && c.Events[n-1].Kind == "emptied" {
			continue
		}
		name, link := c.Bottle.Code+" "+c.Bottle.Lot, "/kit/resins/"+c.Bottle.ResinID
		age := machine.BottleAt(c.Bottle.OpenedOn, c.Bottle.ExpiresOn, w.NowMS())
		if state := age.State(); state == "due" || state == "soon" {
			out = append(out, Due{Of: name, What: "age", State: state, Source: "stated life", Link: link, Why: BottleWords(age)})
		}
		if c.Share != nil && *c.Share < machine.EmptySoonShare {
			out = append(out, Due{Of: name, What: "content", State: "soon", Share: quantity.Ptr(1 - *c.Share), Source: "own", Link: link,
				Why: fmt.Sprintf("%s ml left, by %s.", say.Whole(*c.LeftML), c.From)})
		}
	}
	return out, nil
}

// BottleWords says how old a bottle is.
func BottleWords(b machine.Bottle) string {
	var words []string
	switch {
	case b.AgeDays == nil:
		words = append(words, "when it was opened is not on record")
	default:
		words = append(words, "opened "+say.Counted(int64(*b.AgeDays), "day")+" ago")
	}
	switch {
	case b.PastDays == nil:
	case *b.PastDays > 0:
		words = append(words, "expired "+say.Counted(int64(*b.PastDays), "day")+" ago")
	case *b.PastDays == 0:
		words = append(words, "expires today")
	default:
		words = append(words, "expires in "+say.Counted(int64(-*b.PastDays), "day"))
	}
	text := strings.Join(words, ", ") + "."
	return strings.ToUpper(text[:1]) + text[1:]
}

// HappenBottle appends what happened to a bottle.
func (w *Tasks) HappenBottle(ctx context.Context, id string, e bench.BottleEvent) (out BottleCard, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		out, err = w.HappenBottleIn(t, id, e)
		return err
	})
	return out, err
}

// HappenBottleIn is HappenBottle within a transaction.
func (w *Tasks) HappenBottleIn(t *store.Tx, id string, e bench.BottleEvent) (out BottleCard, err error) {
	if e.Kind == "weighed" && e.GrossG == nil {
		return out, quantity.Errorf("gross_g", "is missing; put the bottle on the scale")
	}
	if e.ID, err = w.NewID(); err != nil {
		return out, err
	}
	e.BottleID = id
	if e.AtMS == 0 {
		e.AtMS = w.NowMS()
	}
	if err := bench.HasBeen("at_ms", e.AtMS, w.NowMS()); err != nil {
		return out, err
	}
	b, err := t.Bottle(id)
	if err != nil {
		return out, err
	}
	r, err := t.Resin(b.ResinID)
	if err != nil {
		return out, err
	}
	if e.Kind == "weighed" && b.TareG != nil && *e.GrossG < *b.TareG {
		return out, quantity.Errorf("gross_g", "is %s g, less than the empty bottle's %s g; check the scale", say.Figures(*e.GrossG, 6), say.Figures(*b.TareG, 6))
	}
	if err := t.SaveBottleEvent(e); err != nil {
		return out, err
	}
	if e.Kind == "opened" && b.OpenedOn == nil {
		b.OpenedOn, b.Version = quantity.Ptr(say.Day(e.AtMS)), b.Version+1
		if err := t.SaveBottle(b); err != nil {
			return out, err
		}
	}
	return CardOfBottle(t, b, r)
}
