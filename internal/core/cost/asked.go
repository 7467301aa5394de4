package cost

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Asked is a price on a day (YYYY-MM-DD): its state (list, offer, coupon, pledge, paid or used), the day on which it ends
// (empty where it does not), amount and shipping in the reviewer's currency, nil where they are not known, and tax in per
// cent.
type Asked struct {
	Day         string
	State       string
	UntilDay    string
	Amount      *float64
	Shipping    *float64
	TaxPct      float64
	TaxIncluded bool
}

// Total is what is paid in the end, with shipping and tax; nil where the amount is not known. Shipping that is not known is
// not in it, and Whole says so.
func (a Asked) Total() *float64 {
	if a.Amount == nil {
		return nil
	}
	sum := *a.Amount + quantity.Or(a.Shipping, 0)
	if !a.TaxIncluded {
		sum *= 1 + a.TaxPct/100
	}
	return &sum
}

// Whole reports a price of which nothing is missing.
func (a Asked) Whole() bool { return a.Amount != nil && a.Shipping != nil }

// Is reports that a price as it was asked is the one that costs are worked out from: the same amount without a discount, the
// same shipping, and the same tax. One of no state, or of which anything is not known, is none. A rule of our own.
func (a Asked) Is(from PriceInput) bool {
	return a.State != "" && a.Whole() && quantity.Or(from.Discount, 0) == 0 && quantity.Or(from.Coupon, 0) == 0 && quantity.Equal(from.List, *a.Amount) &&
		quantity.Equal(quantity.Or(from.Shipping, 0), *a.Shipping) && quantity.Or(from.TaxIncluded, false) == a.TaxIncluded &&
		(a.TaxIncluded || quantity.Equal(quantity.Or(from.TaxPct, 0), a.TaxPct))
}

// forAll are the states in which anybody can buy: what one reviewer paid, what backers were promised, and what a used one went
// for are no prices of a new one.
func forAll(state string) bool { return state == "list" || state == "offer" || state == "coupon" }

// PriceOn is the place of the price at which anybody could buy on a day: the newest that had been asked by then and had not
// ended; −1 where there is none. Of two of one day the later in the list counts.
func PriceOn(prices []Asked, day string) int {
	best := -1
	for i, p := range prices {
		if !forAll(p.State) || p.Day > day || p.UntilDay != "" && p.UntilDay < day {
			continue
		}
		if best < 0 || p.Day >= prices[best].Day {
			best = i
		}
	}
	return best
}

// What becomes of an item of equipment.
const (
	Included  = "included"
	ToBuy     = "to_buy"
	NotNeeded = "not_needed"
	Unknown   = "unknown"
)

// Item is something that makes machines alike: whether it came, has to be bought (Amount nil is not known), or is not needed.
type Item struct {
	Name   string
	Need   string
	Amount *float64
}

// Alike is the price of a machine with the same equipment as the others: Total where all of it is known, AtLeast what is
// known of it, Missing what is not.
type Alike struct {
	Total   *float64 `json:"total"`
	AtLeast float64  `json:"at_least"`
	Missing []string `json:"missing"`
}

// SameEquipment adds up a price and what has to be bought beside it. What nobody knows is missing, and never 0: then there is
// no total.
func SameEquipment(price *Asked, items []Item) Alike {
	out := Alike{Missing: []string{}}
	switch {
	case price == nil || price.Amount == nil:
		out.Missing = append(out.Missing, "its price")
	default:
		if out.AtLeast = *price.Total(); price.Shipping == nil {
			out.Missing = append(out.Missing, "its shipping")
		}
	}
	for _, i := range items {
		switch {
		case i.Need == Unknown:
			out.Missing = append(out.Missing, "whether "+i.Name+" is needed")
		case i.Need == ToBuy && i.Amount == nil:
			out.Missing = append(out.Missing, i.Name)
		case i.Need == ToBuy:
			out.AtLeast += *i.Amount
		}
	}
	if len(out.Missing) == 0 {
		out.Total = &out.AtLeast
	}
	return out
}

// Says is a same-equipment price in words.
func (a Alike) Says(currency string) string {
	if a.Total != nil {
		return say.InUnit(say.Figures(*a.Total, 4), currency)
	}
	if a.AtLeast == 0 {
		return "not known: " + say.List(a.Missing)
	}
	return fmt.Sprintf("at least %s; not known: %s", say.InUnit(say.Figures(a.AtLeast, 4), currency), say.List(a.Missing))
}

// Path is one way to go on with a machine that is owned: Now is what it costs once (kit and one-off tools, or a new machine
// less what the old one brings), Saved what it gives back at once (a panel that would have been bought anyway), and
// PerPiece what a good piece costs then.
type Path struct {
	Name     string
	Now      float64
	Saved    float64
	PerPiece float64
}

// Recovered is a path with what it costs more at first than going on as it is, and after how many good pieces that is back;
// nil for never.
type Recovered struct {
	Name   string   `json:"name"`
	More   float64  `json:"more"`
	Pieces *float64 `json:"pieces"`
	Says   string   `json:"says"`
}

// Recover says of each path after how many good pieces it has paid for itself, against going on at PerPiece. Amounts are in
// the currency; one that costs nothing more is recovered at once, one that saves nothing a piece never is.
func Recover(perPiece float64, paths []Path, currency string) []Recovered {
	out := []Recovered{}
	for _, p := range paths {
		r := Recovered{Name: p.Name, More: p.Now - p.Saved}
		saves := perPiece - p.PerPiece
		money := func(v float64) string { return say.InUnit(say.Figures(math.Abs(v), 3), currency) }
		switch {
		case r.More <= 0:
			r.Pieces, r.Says = quantity.Ptr(0.0), "costs nothing more than going on: it is recovered at once"
		case !quantity.Less(0, saves):
			r.Says = fmt.Sprintf("costs %s more and saves nothing a piece: it is never recovered", money(r.More))
		default:
			n := math.Ceil(r.More/saves - 1e-9)
			r.Pieces = &n
			r.Says = fmt.Sprintf("costs %s more and saves %s a good piece: recovered after %s", money(r.More), money(saves), say.Counted(int64(n), "good piece"))
		}
		r.Says = strings.ToUpper(p.Name[:1]) + p.Name[1:] + " " + r.Says + "."
		out = append(out, r)
	}
	return out
}
