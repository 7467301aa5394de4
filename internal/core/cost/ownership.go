package cost

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// Replacement is a part that wears out: its price, and after how many pieces it is replaced.
type Replacement struct {
	Name        string  `json:"name"`
	Price       float64 `json:"price"`
	EveryPieces float64 `json:"every_pieces"`
}

// Owned is something that may be bought: what is paid for it, what it fetches in the end, and what a good piece costs
// on it without what stands in Replacements. Resale defaults to 0, Replacements to none.
type Owned struct {
	Name         string        `json:"name"`
	Paid         float64       `json:"paid"`
	Resale       *float64      `json:"resale,omitempty"`
	PerGoodPiece float64       `json:"per_good_piece"`
	Replacements []Replacement `json:"replacements,omitempty"`
}

// OwnershipInput is what may be bought, and how much is made with it: pieces a year, for so many years, which need not
// be whole; both above 0.
type OwnershipInput struct {
	Options       []Owned `json:"options"`
	PiecesPerYear float64 `json:"pieces_per_year"`
	Years         float64 `json:"years"`
}

// What owning is reckoned with where nobody stated it, of our own choice: an evening's plate of three to four good pieces every
// other day, for three years, and a third of the price at the end. Pages say that it is not the reader's own.
const (
	UsualPiecesPerYear = 600.0
	UsualYears         = 3.0
	UsualResalePct     = 33.0
)

// OwnedTotal is what an option comes to over all the years, a year and a piece.
type OwnedTotal struct {
	Name     string  `json:"name"`
	Total    float64 `json:"total"`
	PerYear  float64 `json:"per_year"`
	PerPiece float64 `json:"per_piece"`
}

// BreakEven is the number of pieces at which two options have cost the same; nil where that is never.
type BreakEven struct {
	A      string   `json:"a"`
	B      string   `json:"b"`
	Pieces *float64 `json:"pieces"`
}

// OwnershipResult is each option in its order, and each pair of them in theirs.
type OwnershipResult struct {
	Options   []OwnedTotal `json:"options"`
	BreakEven []BreakEven  `json:"break_even"`
	quantity.Warnings
}

// Ownership sets options against each other over the years of their use. Prices are not below 0; an error names the
// field (options[0].replacements[0].every_pieces).
func Ownership(in OwnershipInput) (OwnershipResult, error) {
	if err := in.check(); err != nil {
		return OwnershipResult{}, err
	}
	pieces := in.PiecesPerYear * in.Years
	out := OwnershipResult{Options: []OwnedTotal{}, BreakEven: []BreakEven{}, Warnings: quantity.None()}
	for i, a := range in.Options {
		total := a.once() + pieces*a.perPiece()
		out.Options = append(out.Options, OwnedTotal{a.Name, total, total / in.Years, total / pieces})
		for _, b := range in.Options[i+1:] {
			out.BreakEven = append(out.BreakEven, BreakEven{a.Name, b.Name, level(a, b)})
		}
	}
	return out, nil
}

// once is what an option costs however much is made.
func (o Owned) once() float64 { return o.Paid - quantity.Or(o.Resale, 0) }

// perPiece is what a piece costs with the parts that it wears.
func (o Owned) perPiece() float64 {
	out := o.PerGoodPiece
	for _, r := range o.Replacements {
		out += r.Price / r.EveryPieces
	}
	return out
}

// level is where two straight lines meet.
func level(a, b Owned) *float64 {
	if quantity.Equal(a.perPiece(), b.perPiece()) {
		return nil
	}
	if n := (b.once() - a.once()) / (a.perPiece() - b.perPiece()); n > 0 {
		return &n
	}
	return nil
}

func (in OwnershipInput) check() error {
	var c quantity.Checks
	if len(in.Options) == 0 {
		c.Fail("options", "is empty; name at least one")
	}
	for i, o := range in.Options {
		at := fmt.Sprintf("options[%d].", i)
		c.NotBelow(at+"paid", o.Paid)
		c.NotBelowIf(at+"resale", o.Resale)
		c.NotBelow(at+"per_good_piece", o.PerGoodPiece)
		for j, r := range o.Replacements {
			part := fmt.Sprintf("%sreplacements[%d].", at, j)
			c.NotBelow(part+"price", r.Price)
			c.Above(part+"every_pieces", r.EveryPieces)
		}
	}
	c.Above("pieces_per_year", in.PiecesPerYear)
	c.Above("years", in.Years)
	return c.Err()
}
