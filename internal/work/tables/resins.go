package tables

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// resinRow is a resin with one of its bottles, or with none. A bottle without anything known of
// it is called new.
type resinRow struct {
	bench.Resin
	bottle     bench.Bottle
	bottleCode string
	hasBottle  bool
}

// newBottle is how a bottle is called that has no code yet.
const newBottle = "new"

// resins is a resin with a bottle a row; what was entered of the resin once need not be entered
// again for its next bottle.
var resins = kind[resinRow]{
	name: "resins", title: "Resins and bottles", each: "resin or bottle",
	about: "A resin a row, with a bottle of it where you have one. Another bottle of the same resin is another row with the same name.",
	columns: []column[resinRow]{
		text("name", "Name", func(r *resinRow) *string { return &r.Name }).needed().carried(),
		maybe("bottle_ml", "Sold by", func(r *resinRow) **float64 { return &r.BottleML }).carried(),
		maybe("bottle_g", "or sold by", func(r *resinRow) **float64 { return &r.BottleG }),
		maybe("density_g_ml", "Density", func(r *resinRow) **float64 { return &r.DensityGML }),
		number("price_list", "List price", func(r *resinRow) *float64 { return &r.PriceList }),
		text("family", "Family", func(r *resinRow) *string { return &r.Family }).carried(),
		colour("colour", "Colour", func(r *resinRow) *string { return &r.Colour }),
		text("bottle", "Bottle", func(r *resinRow) *string { return &r.bottleCode }).as(newBottle),
		text("lot", "Lot", func(r *resinRow) *string { return &r.bottle.Lot }),
		day("opened_on", "Opened on", func(r *resinRow) **string { return &r.bottle.OpenedOn }),
		day("expires_on", "Expires on", func(r *resinRow) **string { return &r.bottle.ExpiresOn }),
		text("maker", "Maker", func(r *resinRow) *string { return &r.Maker }),
		maybe("tare_g", "Bottle when empty", func(r *resinRow) **float64 { return &r.bottle.TareG }).more(),
		maybe("stated_wash_s", "Wash by the label", func(r *resinRow) **float64 { return &r.StatedWashS }).more(),
		maybe("stated_cure_s", "Cure by the label", func(r *resinRow) **float64 { return &r.StatedCureS }).more(),
		maybe("prints_from_c", "Prints from", func(r *resinRow) **float64 { return &r.PrintsFromC }).more(),
		maybe("prints_to_c", "Prints up to", func(r *resinRow) **float64 { return &r.PrintsToC }).more(),
		number("price_discount", "Discount", func(r *resinRow) *float64 { return &r.PriceDiscount }).more(),
		number("price_shipping", "Shipping", func(r *resinRow) *float64 { return &r.PriceShipping }).more(),
		number("price_tax_pct", "Tax", func(r *resinRow) *float64 { return &r.PriceTaxPct }).more(),
		sure("price_tax_included", "Tax is in the price", func(r *resinRow) *bool { return &r.PriceTaxIncluded }).more(),
		text("notes", "Notes", func(r *resinRow) *string { return &r.Notes }).more(),
	},
	fresh:    func() resinRow { return resinRow{} },
	onRecord: resinsOnRecord,
	begin: func(w *Tasks, t *store.Tx, confirmed bool) (batch[resinRow], error) {
		known, err := resinsOnRecord(w, t)
		return &resinRows{w, confirmed, known}, err
	},
}

// resinsOnRecord are the resins, each as often as it has bottles, and once where it has none.
func resinsOnRecord(_ *Tasks, t *store.Tx) ([]resinRow, error) {
	list, err := t.Resins()
	if err != nil {
		return nil, err
	}
	bottles, err := t.Bottles()
	out := []resinRow{}
	for _, r := range list {
		has := false
		for _, b := range bottles {
			if b.ResinID == r.ID {
				out, has = append(out, resinRow{Resin: r, bottle: b, bottleCode: b.Code}), true
			}
		}
		if !has {
			out = append(out, resinRow{Resin: r})
		}
	}
	return out, err
}

// resinRows are the resins and bottles on record and those of the rows before.
type resinRows struct {
	w         *Tasks
	confirmed bool
	known     []resinRow
}

// ofBottle are the columns that say something of the bottle.
var ofBottle = []string{"bottle", "lot", "opened_on", "expires_on", "tare_g"}

// part are the columns of the bottle, or else those of the resin.
func part(bottle bool) []column[resinRow] {
	return slices.DeleteFunc(slices.Clone(resins.columns), func(c column[resinRow]) bool { return slices.Contains(ofBottle, c.Name) != bottle })
}

func (b *resinRows) look(r *resinRow, filled map[string]bool) (fate, says string, err error) {
	says, known, err := b.resin(r, filled)
	if err != nil {
		return "", "", err
	}
	if !slices.ContainsFunc(ofBottle, func(name string) bool { return filled[name] }) {
		if known {
			return Same, says, nil
		}
		b.known = append(b.known, *r)
		return Kept, says + ", without a bottle", nil
	}
	fate, of, err := b.ofResin(r, filled)
	if err != nil {
		return "", "", err
	}
	r.hasBottle = fate == Kept
	b.known = append(b.known, *r)
	return fate, says + ", " + of, nil
}

// resin looks at the resin of a row: one that stands already is taken over.
func (b *resinRows) resin(r *resinRow, filled map[string]bool) (says string, known bool, err error) {
	i := slices.IndexFunc(b.known, func(k resinRow) bool { return strings.EqualFold(k.Name, r.Name) })
	if i >= 0 {
		if _, says, err = stands(part(false), filled, *r, b.known[i], b.known[i].Code); err != nil {
			return "", false, err
		}
		r.Resin = b.known[i].Resin
		return says, true, nil
	}
	if !filled["price_list"] {
		return "", false, quantity.Errorf("price_list", "is empty; a resin that cost nothing costs 0")
	}
	if err := r.Resin.Check(); err != nil {
		return "", false, err
	}
	if beyond := bench.Beyond(r.Resin); len(beyond) > 0 {
		return "", false, beyond[0]
	}
	card, err := kit.CardOfResin(r.Resin)
	if err != nil {
		return "", false, err
	}
	if card.Price == nil || card.Price.PerLitre == nil {
		return "a new resin", false, nil
	}
	return fmt.Sprintf("a new resin, %.2f per litre", *card.Price.PerLitre), false, nil
}

// ofResin looks at the bottle of a row. One that is as another of its resin is asked about.
func (b *resinRows) ofResin(r *resinRow, filled map[string]bool) (fate, says string, err error) {
	if err := r.bottle.Check(); err != nil {
		return "", "", err
	}
	code := r.bottleCode
	if strings.EqualFold(code, newBottle) {
		r.bottleCode = ""
		return Kept, "and a bottle", nil
	}
	for _, k := range b.known {
		if !strings.EqualFold(k.Name, r.Name) || k.bottleCode == "" {
			continue
		}
		switch same := len(differing(part(true)[1:], filled, *r, k)) == 0; {
		case strings.EqualFold(k.bottleCode, code) && !same:
			return "", "", quantity.Errorf("bottle", "%s stands on record otherwise; what is known of it is changed on the page of its resin", k.bottleCode)
		case strings.EqualFold(k.bottleCode, code):
			r.bottleCode = k.bottleCode
			return Same, "bottle " + k.bottleCode, nil
		case code == "" && same && !b.confirmed:
			return "", "", bench.Questioned("bottle", "%s is such a bottle: is this another one?", k.bottleCode)
		}
	}
	r.bottleCode = ""
	return Kept, "and a bottle", nil
}

func (b *resinRows) keep(t *store.Tx, r resinRow) error {
	list, err := t.Resins()
	if err != nil {
		return err
	}
	if i := slices.IndexFunc(list, func(k bench.Resin) bool { return strings.EqualFold(k.Name, r.Name) }); i >= 0 {
		r.Resin = list[i]
	} else {
		card, err := b.w.kit.SaveResinIn(t, r.Resin)
		if err != nil {
			return err
		}
		r.Resin = card.Resin
	}
	if !r.hasBottle {
		return nil
	}
	r.bottle.ResinID = r.Resin.ID
	_, err = b.w.kit.SaveBottleIn(t, r.bottle)
	return err
}
