package money

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// ResinPrices is what a bottle of a resin was asked for, the newest first. Costs are worked out from the price on the resin's
// page, which does not change by itself: an offer that ends would change what a print cost. Basis says where that price comes
// from; Stands marks the price at which anybody can buy now, and Beside names it where it is another.
type ResinPrices struct {
	Day      string       `json:"day"`
	Currency string       `json:"currency"`
	Prices   []PriceShown `json:"prices"`
	Basis    string       `json:"basis"`
	Beside   string       `json:"beside"`
	// OnPage is the price among them that the page has; empty where it has another.
	OnPage string `json:"on_page"`
}

// OfResin reads what a resin was asked for.
func (w *Tasks) OfResin(ctx context.Context, resinID string) (out ResinPrices, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		r, err := t.Resin(resinID)
		if err != nil {
			return err
		}
		out, err = Of(t, r, w.NowMS())
		return err
	})
	return out, err
}

// Of is what a resin was asked for until now.
func Of(t *store.Tx, r bench.Resin, nowMS int64) (ResinPrices, error) {
	out := ResinPrices{Day: say.Day(nowMS)}
	settings, err := t.Settings()
	if err != nil {
		return out, err
	}
	out.Currency = settings.Currency
	all, err := t.Prices()
	if err != nil {
		return out, err
	}
	var asked []cost.Asked
	out.Prices, asked = askedOf(all, out.Currency, func(p bench.Price) bool { return quantity.Or(p.ResinID, "") == r.ID })
	stands := cost.PriceOn(asked, out.Day)
	if stands >= 0 {
		out.Prices[stands].Stands = true
	}
	onPage := kit.PriceOfResin(r)
	page := slices.IndexFunc(asked, func(a cost.Asked) bool { return a.Is(onPage) })
	if stands >= 0 && asked[stands].Is(onPage) {
		page = stands
	}
	if page >= 0 {
		out.OnPage = out.Prices[page].Price.ID
	}
	out.Basis = basisWords(r, out.Prices, page, out.Currency)
	if stands >= 0 && stands != page {
		out.Beside = "Asked now: " + out.Prices[stands].Says + "."
	}
	slices.SortStableFunc(out.Prices, func(a, b PriceShown) int { return strings.Compare(b.Price.Day, a.Price.Day) })
	return out, nil
}

// basisWords say what costs are worked out from.
func basisWords(r bench.Resin, prices []PriceShown, page int, currency string) string {
	card, err := kit.CardOfResin(r)
	if err != nil {
		return "What its prints cost is not known: its page lacks what a bottle holds, or its density."
	}
	text := "Costs are worked out from " + say.InUnit(say.Figures(card.Price.Paid, 4), currency) + " a bottle"
	if page >= 0 {
		return text + ": " + prices[page].Says + "."
	}
	return text + ", as its page has it."
}

// TakeOn has costs worked out from a price of a resin as it was asked: it becomes the one on the resin's page.
func (w *Tasks) TakeOn(ctx context.Context, id string) (bench.Resin, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Resin, error) {
		all, err := t.Prices()
		if err != nil {
			return bench.Resin{}, err
		}
		at := slices.IndexFunc(all, func(p bench.Price) bool { return p.ID == id && p.ResinID != nil })
		if at < 0 {
			return bench.Resin{}, fmt.Errorf("price %s of a resin: %w", id, bench.ErrNotFound)
		}
		p := all[at]
		switch {
		case p.TakenBackMS != nil:
			return bench.Resin{}, fmt.Errorf("this price was taken back: %w", bench.ErrConflict)
		case p.Amount == nil:
			return bench.Resin{}, quantity.Errorf("amount", "is not known of this price; keep one with its amount")
		case p.Shipping == nil:
			return bench.Resin{}, quantity.Errorf("shipping", "is not known of this price; keep one with its shipping, 0 where it is free")
		}
		r, err := t.Resin(*p.ResinID)
		if err != nil {
			return r, err
		}
		r.PriceList, r.PriceDiscount, r.PriceShipping, r.PriceTaxPct, r.PriceTaxIncluded = *p.Amount, 0, *p.Shipping, p.TaxPct, p.TaxIncluded
		card, err := kit.New(w.Base).SaveResinIn(t, r)
		return card.Resin, err
	})
}
