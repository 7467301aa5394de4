package resin

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// BottleEvent is something that happened to a bottle: weighed (GrossG, with the bottle),
// poured_back or mixed (ML came in), emptied. Other kinds change nothing.
type BottleEvent struct {
	Kind   string
	AtMS   int64
	ML     *float64
	GrossG *float64
}

// Bottle is what is on record of one, in the order of its events: SizeML is what a full one
// holds, TareG what the empty one weighs; each nil where it is not known.
type Bottle struct {
	SizeML     *float64
	TareG      *float64
	DensityGML *float64
	Events     []BottleEvent
}

// BottleUse is what prints took of a bottle: how many there were, how many of them noted
// what they used, and how much that was in g.
type BottleUse struct {
	Prints int64
	Noted  int64
	UsedG  float64
}

// BottleContent is what is left in ml, as a share of a full one where its size is known, and
// what that rests on; LeftML is nil, with the reason, where it cannot be known.
type BottleContent struct {
	LeftML *float64
	Share  *float64
	From   string
	Reason string
}

// CountedFrom is the instant from which prints count against what is left: the last
// weighing, or the last time that it was emptied; 0 for all of them.
func (b Bottle) CountedFrom() (ms int64) {
	for _, e := range b.Events {
		if e.Kind == "weighed" || e.Kind == "emptied" {
			ms = e.AtMS
		}
	}
	return ms
}

// Content is what a bottle holds, with what its prints used since CountedFrom. It is never
// below nothing.
func (b Bottle) Content(used BottleUse) (out BottleContent) {
	if n := len(b.Events); n > 0 && b.Events[n-1].Kind == "emptied" {
		return BottleContent{LeftML: quantity.Ptr(0.0), Share: quantity.Ptr(0.0), From: "noted as emptied"}
	}
	left, added := b.SizeML, 0.0
	out.From = "its size, less what its runs used"
	for _, e := range b.Events {
		switch e.Kind {
		case "poured_back", "mixed":
			added += quantity.Or(e.ML, 0)
		case "emptied":
			added, left, out.From = 0, quantity.Ptr(0.0), "noted as emptied"
		case "weighed":
			added, out.From = 0, "the last weighing, less what its runs used since"
			left, out.Reason = b.weighed(e)
		}
	}
	switch {
	case left == nil && out.Reason == "":
		out.Reason = "What a bottle holds is not on record."
	case left == nil:
	case used.Prints > used.Noted:
		out.Reason = fmt.Sprintf("%d of %d prints did not note what they used, so what is left is not known; weigh the bottle.", used.Prints-used.Noted, used.Prints)
	case used.Prints > 0 && b.DensityGML == nil:
		out.Reason = "The resin's density is not on record, so what its prints used gives no millilitres."
	default:
		b.fill(&out, *left, added, used)
	}
	return out
}

// weighed is what a weighing gives, or why it gives nothing.
func (b Bottle) weighed(e BottleEvent) (left *float64, reason string) {
	switch {
	case b.TareG == nil:
		return nil, "What the empty bottle weighs is not on record, so the weighing gives no content."
	case b.DensityGML == nil:
		return nil, "The resin's density is not on record, so the weighing gives no millilitres."
	case e.GrossG == nil:
		return nil, "What it weighed is not on record."
	}
	return quantity.Ptr((*e.GrossG - *b.TareG) / *b.DensityGML), ""
}

func (b Bottle) fill(out *BottleContent, left, added float64, used BottleUse) {
	if used.Prints > 0 {
		left = max(0, left - used.UsedG / *b.DensityGML)
	}
	if added > 0 {
		left, out.From = left+added, out.From+", with what was poured in"
	}
	out.LeftML = &left
	if b.SizeML != nil {
		out.Share = quantity.Ptr(left / *b.SizeML)
	}
}
