package bench

import (
	"database/sql/driver"
	"fmt"
	"strings"

	"ojime/internal/core/cost"
	"ojime/internal/core/quantity"
)

// Price is what a machine or a resin was asked for, or sold for, on a Day (YYYY-MM-DD), by a Source: of a State, until a day
// where it ends. Amounts are in the reviewer's currency; nil is not known, which is not 0. It is appended; a price that was
// wrong is taken back.
type Price struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	AtMS         int64    `json:"at_ms" required:"false" readOnly:"true"`
	MachineID    *string  `json:"machine_id" required:"false"`
	ResinID      *string  `json:"resin_id" required:"false"`
	Day          string   `json:"day" minLength:"10" maxLength:"10"`
	State        string   `json:"state" enum:"list,offer,coupon,pledge,paid,used"`
	UntilDay     *string  `json:"until_day" required:"false"`
	Amount       *float64 `json:"amount" required:"false" minimum:"0"`
	Shipping     *float64 `json:"shipping" required:"false" minimum:"0"`
	TaxPct       float64  `json:"tax_pct" required:"false" minimum:"0" maximum:"100"`
	TaxIncluded  bool     `json:"tax_included" required:"false"`
	Source       string   `json:"source" minLength:"1"`
	Note         string   `json:"note" required:"false"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Check says what makes no sense about a price.
func (p Price) Check() error {
	var c quantity.Checks
	if (p.MachineID == nil) == (p.ResinID == nil) {
		c.Fail("machine_id", "and resin_id name none or both; a price is of one thing")
	}
	checkDay(&c, "day", &p.Day)
	checkDay(&c, "until_day", p.UntilDay)
	if p.UntilDay != nil && *p.UntilDay < p.Day {
		c.Fail("until_day", "is %s, before the price was asked", *p.UntilDay)
	}
	c.NotBelowIf("amount", p.Amount)
	c.NotBelowIf("shipping", p.Shipping)
	if strings.TrimSpace(p.Source) == "" {
		c.Fail("source", "is missing; say who asks it: a shop, the maker's page")
	}
	return c.Err()
}

// Asked is the price as it is compared.
func (p Price) Asked() cost.Asked {
	return cost.Asked{Day: p.Day, State: p.State, UntilDay: quantity.Or(p.UntilDay, ""), Amount: p.Amount, Shipping: p.Shipping, TaxPct: p.TaxPct, TaxIncluded: p.TaxIncluded}
}

// Equipment is something that a machine needs to match the equipment of others: it came with it, has to be bought (Amount nil
// is not known), or it does without. It is appended; the newest word on an item stands.
type Equipment struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	AtMS      int64    `json:"at_ms" required:"false" readOnly:"true"`
	MachineID string   `json:"machine_id" minLength:"1"`
	Item      string   `json:"item" minLength:"1" maxLength:"60"`
	Need      string   `json:"need" enum:"included,to_buy,not_needed,unknown"`
	Amount    *float64 `json:"amount" required:"false" minimum:"0"`
	Source    string   `json:"source" required:"false"`
}

// Check says what makes no sense about an item.
func (e Equipment) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(e.Item) == "" {
		c.Fail("item", "is missing; name what is added: a filter, a spare film, a wash station")
	}
	c.NotBelowIf("amount", e.Amount)
	if e.Amount != nil && e.Need != cost.ToBuy {
		c.Fail("amount", "is given for something that needs not be bought")
	}
	return c.Err()
}

// Budget is how an owner of a machine of a review is taken to use it: good pieces a year over years, what share of the price
// it can be sold for then, and what is used up beside resin, film and light: Upkeep.
type Budget struct {
	ID            string      `json:"id" required:"false" readOnly:"true"`
	Version       int64       `json:"version" required:"false"`
	ReviewID      string      `json:"review_id" required:"false" readOnly:"true"`
	PiecesPerYear float64     `json:"pieces_per_year" exclusiveMinimum:"0"`
	Years         float64     `json:"years" exclusiveMinimum:"0" maximum:"50"`
	ResalePct     float64     `json:"resale_pct" minimum:"0" maximum:"100"`
	Upkeep        BudgetItems `json:"upkeep" maxItems:"40"`
	// PerPiece is what a good piece costs with the machine that is owned, nil for what the record says of the first; Paths
	// are the ways to go on with it.
	PerPiece *float64    `json:"per_piece" required:"false" minimum:"0"`
	Paths    BudgetPaths `json:"paths" required:"false" maxItems:"12"`
}

// BudgetPath is a way to go on with a machine that is owned: upgrade now, upgrade with the next panel, buy new. Now is what it
// costs once, Saved what would have been spent anyway or comes back, PerPiece what a good piece costs then.
type BudgetPath struct {
	Name     string  `json:"name" minLength:"1" maxLength:"80"`
	Now      float64 `json:"now" minimum:"0"`
	Saved    float64 `json:"saved" minimum:"0"`
	PerPiece float64 `json:"per_piece" minimum:"0"`
	// MeasuredOn is the set-up whose cost of a good piece counts instead, as it was measured.
	MeasuredOn *SetUpRef `json:"measured_on" required:"false"`
}

// BudgetPaths are the ways to go on.
type BudgetPaths []BudgetPath

// Value stores the list as JSON text.
func (l BudgetPaths) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *BudgetPaths) Scan(from any) error { return scanList(from, l) }

// BudgetItem is something that is bought anew every so many good pieces: solvent, gloves, a filter.
type BudgetItem struct {
	Name        string  `json:"name" minLength:"1"`
	Price       float64 `json:"price" minimum:"0"`
	EveryPieces float64 `json:"every_pieces" exclusiveMinimum:"0"`
}

// BudgetItems are the upkeep of a budget.
type BudgetItems []BudgetItem

// Value stores the list as JSON text.
func (l BudgetItems) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *BudgetItems) Scan(from any) error { return scanList(from, l) }

// Check says what makes no sense about a budget.
func (b Budget) Check() error {
	var c quantity.Checks
	c.Above("pieces_per_year", b.PiecesPerYear)
	c.Above("years", b.Years)
	c.NotBelow("resale_pct", b.ResalePct)
	for i, k := range b.Upkeep {
		c.NotBelow(fmt.Sprintf("upkeep[%d].price", i), k.Price)
		c.Above(fmt.Sprintf("upkeep[%d].every_pieces", i), k.EveryPieces)
	}
	c.NotBelowIf("per_piece", b.PerPiece)
	for i, p := range b.Paths {
		at := fmt.Sprintf("paths[%d].", i)
		if strings.TrimSpace(p.Name) == "" {
			c.Fail(at+"name", "is missing; say what is done: upgrading now, buying new")
		}
		c.NotBelow(at+"now", p.Now)
		c.NotBelow(at+"saved", p.Saved)
		c.NotBelow(at+"per_piece", p.PerPiece)
	}
	return c.Err()
}
