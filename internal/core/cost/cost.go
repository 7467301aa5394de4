// Package cost computes what a thing was paid for and what a good piece costs.
package cost

import (
	"fmt"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// Extra is something that had to be added to match another's equipment, at the
// price paid.
type Extra struct {
	Name  string  `json:"name"`
	Price float64 `json:"price"`
}

// Bottle is a resin's content: millilitres, or grams and density in g/ml.
type Bottle struct {
	ML         *float64 `json:"ml,omitempty"`
	G          *float64 `json:"g,omitempty"`
	DensityGML *float64 `json:"density_g_ml,omitempty"`
}

// PriceInput is one price in all its forms, in the reviewer's currency. All
// but List default to 0 or none; TaxIncluded defaults to true.
type PriceInput struct {
	List        float64  `json:"list"`
	Discount    *float64 `json:"discount,omitempty"`
	Coupon      *float64 `json:"coupon,omitempty"`
	Shipping    *float64 `json:"shipping,omitempty"`
	TaxPct      *float64 `json:"tax_pct,omitempty"`
	TaxIncluded *bool    `json:"tax_included,omitempty"`
	Extras      []Extra  `json:"extras,omitempty"`
	Bottle      *Bottle  `json:"bottle,omitempty"`
}

// PriceResult: Paid is the same-equipment price, the one to compare. PerLitre
// is nil without a bottle.
type PriceResult struct {
	Base     float64  `json:"base"`
	Extras   float64  `json:"extras"`
	Paid     float64  `json:"paid"`
	PerLitre *float64 `json:"per_litre"`
	quantity.Warnings
}

// Price adds up (list − discount − coupon + shipping), taxed unless included,
// and the extras as paid.
func Price(in PriceInput) (PriceResult, error) {
	discount, coupon := quantity.Or(in.Discount, 0), quantity.Or(in.Coupon, 0)
	shipping, tax := quantity.Or(in.Shipping, 0), quantity.Or(in.TaxPct, 0)
	var c quantity.Checks
	c.NotBelow("list", in.List)
	c.NotBelow("discount", discount)
	c.NotBelow("coupon", coupon)
	if quantity.Less(in.List, discount+coupon) {
		c.Fail("discount", "and coupon take off %s of a list price of %s; they cannot take off more", say.Figures(discount+coupon, 6), say.Figures(in.List, 6))
	}
	c.NotBelow("shipping", shipping)
	c.NotBelow("tax_pct", tax)
	for i, e := range in.Extras {
		c.NotBelow(fmt.Sprintf("extras[%d].price", i), e.Price)
	}
	ml := bottleML(&c, in.Bottle)
	if c.Err() != nil {
		return PriceResult{}, c.Err()
	}
	out := PriceResult{Base: in.List - discount - coupon + shipping, Warnings: quantity.None()}
	if !quantity.Or(in.TaxIncluded, true) {
		out.Base *= 1 + tax/100
	}
	for _, e := range in.Extras {
		out.Extras += e.Price
	}
	out.Paid = out.Base + out.Extras
	if ml != nil {
		out.PerLitre = quantity.Ptr(1000 * out.Paid / *ml)
	}
	return out, nil
}

func bottleML(c *quantity.Checks, b *Bottle) *float64 {
	if b == nil {
		return nil
	}
	c.AboveIf("bottle.ml", b.ML)
	c.AboveIf("bottle.g", b.G)
	c.AboveIf("bottle.density_g_ml", b.DensityGML)
	switch {
	case b.ML != nil:
		return b.ML
	case b.G == nil:
		c.Fail("bottle.ml", "is missing; give millilitres, or grams and density")
		return nil
	case b.DensityGML == nil:
		c.Fail("bottle.density_g_ml", "is missing; grams need it to become millilitres")
		return nil
	}
	return quantity.Ptr(*b.G / *b.DensityGML)
}

// Consumable wears with use: Life in Unit s, light_s, layer or print.
type Consumable struct {
	Name  string  `json:"name"`
	Price float64 `json:"price"`
	Life  float64 `json:"life"`
	Unit  string  `json:"unit"`
}

// Print is one job: seconds in all and lit, and layers.
type Print struct {
	TotalS   float64 `json:"total_s"`
	LightOnS float64 `json:"light_on_s"`
	Layers   int64   `json:"layers"`
}

// Success counts pieces: how many were good of those tried.
type Success struct {
	Good  int64 `json:"good"`
	Tried int64 `json:"tried"`
}

// PieceInput is one plate. ResinML is for the whole plate; FailedShare is the
// share of a good print's cost that a failed one consumes (default 1).
type PieceInput struct {
	ResinML       float64      `json:"resin_ml"`
	ResinPerLitre float64      `json:"resin_per_litre"`
	WastePct      *float64     `json:"waste_pct,omitempty"`
	Consumables   []Consumable `json:"consumables,omitempty"`
	Print         Print        `json:"print"`
	PowerW        float64      `json:"power_w"`
	EnergyPerKWh  float64      `json:"energy_per_kwh"`
	AttendedMin   float64      `json:"attended_min"`
	LabourPerH    float64      `json:"labour_per_h"`
	Copies        int64        `json:"copies"`
	Success       Success      `json:"success"`
	FailedShare   *float64     `json:"failed_share,omitempty"`
}

// Part is one share of a print's cost.
type Part struct {
	Name string  `json:"name"`
	Cost float64 `json:"cost"`
}

// PieceResult splits the cost of a print and gives the cost of a good piece
// with the interval that follows from the success rate.
type PieceResult struct {
	Parts        []Part             `json:"parts"`
	PrintCost    float64            `json:"print_cost"`
	PerCopy      float64            `json:"per_copy"`
	PerGoodPiece *float64           `json:"per_good_piece"`
	PerGoodCI    *quantity.Interval `json:"per_good_ci"`
	quantity.Warnings

	failedShare float64
}

// joulesPerKWh converts watts times seconds to kilowatt-hours.
const joulesPerKWh = 3.6e6

// Piece costs a print and spreads failures over the good pieces:
// (print/copies)·(1 + failed_share·(1−p)/p), its interval from p's Wilson
// limits. It warns nothing_good and no_trials.
func Piece(in PieceInput) (PieceResult, error) {
	if err := checkPiece(in); err != nil {
		return PieceResult{}, err
	}
	out := PieceResult{Warnings: quantity.None()}
	add := func(name string, cost float64) {
		out.Parts = append(out.Parts, Part{name, cost})
		out.PrintCost += cost
	}
	add("resin", in.ResinML/1000*in.ResinPerLitre*(1+quantity.Or(in.WastePct, 0)/100))
	use := map[string]float64{"s": in.Print.TotalS, "light_s": in.Print.LightOnS, "layer": float64(in.Print.Layers), "print": 1}
	for _, k := range in.Consumables {
		add(k.Name, k.Price*use[k.Unit]/k.Life)
	}
	add("energy", in.PowerW*in.Print.TotalS/joulesPerKWh*in.EnergyPerKWh)
	add("labour", in.AttendedMin/60*in.LabourPerH)
	out.PerCopy = out.PrintCost / float64(in.Copies)
	out.perGood(in.Success, quantity.Or(in.FailedShare, 1))
	return out, nil
}

func (out *PieceResult) perGood(s Success, failedShare float64) {
	switch {
	case s.Tried == 0:
		out.Warn("no_trials", "No piece was tried yet, so its cost when good is not known.")
		return
	case s.Good == 0:
		out.Warn("nothing_good", "None of %s was good, so a good one has no price yet.", say.Counted(s.Tried, "piece"))
		return
	}
	out.failedShare = failedShare
	limits := stats.Wilson(float64(s.Good), float64(s.Tried))
	out.PerGoodPiece = quantity.Ptr(out.PriceAt(float64(s.Good) / float64(s.Tried)))
	out.PerGoodCI = &quantity.Interval{out.PriceAt(limits[1]), out.PriceAt(limits[0])}
}

// PriceAt is what a good piece costs where a share of the copies, above 0 and up to 1,
// comes out good.
func (out PieceResult) PriceAt(yield float64) float64 {
	return out.PerCopy * (1 + out.failedShare*(1-yield)/yield)
}

func checkPiece(in PieceInput) error {
	var c quantity.Checks
	c.NotBelow("resin_ml", in.ResinML)
	c.NotBelow("resin_per_litre", in.ResinPerLitre)
	c.NotBelowIf("waste_pct", in.WastePct)
	for i, k := range in.Consumables {
		at := fmt.Sprintf("consumables[%d].", i)
		c.NotBelow(at+"price", k.Price)
		c.Above(at+"life", k.Life)
		c.OneOf(at+"unit", k.Unit, "s", "light_s", "layer", "print")
	}
	c.Above("print.total_s", in.Print.TotalS)
	c.NotBelow("print.light_on_s", in.Print.LightOnS)
	c.CountAbove("print.layers", in.Print.Layers)
	c.NotBelow("power_w", in.PowerW)
	c.NotBelow("energy_per_kwh", in.EnergyPerKWh)
	c.NotBelow("attended_min", in.AttendedMin)
	c.NotBelow("labour_per_h", in.LabourPerH)
	c.CountAbove("copies", in.Copies)
	c.CountNotBelow("success.good", in.Success.Good)
	c.CountNotBelow("success.tried", in.Success.Tried)
	if in.Success.Good > in.Success.Tried {
		c.Fail("success.good", "is %d of %d tried; it cannot be more", in.Success.Good, in.Success.Tried)
	}
	c.NotBelowIf("failed_share", in.FailedShare)
	return c.Err()
}
