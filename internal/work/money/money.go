// Package money keeps what machines and resins are asked for, and what has to be added so that they are equipped alike.
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

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{base} }

// PriceShown is a price with what it comes to; Stands says that it is the one at which anybody can buy now.
type PriceShown struct {
	Price  bench.Price `json:"price"`
	Total  *float64    `json:"total"`
	Says   string      `json:"says"`
	Stands bool        `json:"stands"`
}

// MoneyMachine is a machine with its prices, the newest first, and its price with the same equipment as the others. FromKit
// says that no dated price is on record, so that the one of its kit page counts.
type MoneyMachine struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"`
	Prices  []PriceShown `json:"prices"`
	FromKit bool         `json:"from_kit"`
	Alike   cost.Alike   `json:"alike"`
	Says    string       `json:"says"`
	Changed string       `json:"changed"`
}

// EquipmentRow is an item over the machines, in their order; a cell that nobody spoke of is unknown.
type EquipmentRow struct {
	Item  string          `json:"item"`
	Cells []EquipmentCell `json:"cells"`
}

// EquipmentCell is an item of one machine.
type EquipmentCell struct {
	Need   string   `json:"need" enum:"included,to_buy,not_needed,unknown"`
	Amount *float64 `json:"amount"`
	Source string   `json:"source"`
	Says   string   `json:"says"`
}

// PriceTable is what machines cost on a day, equipped alike.
type PriceTable struct {
	Day      string         `json:"day"`
	Currency string         `json:"currency"`
	Machines []MoneyMachine `json:"machines"`
	Items    []EquipmentRow `json:"items"`
}

// Table is what machines cost now, equipped alike.
func Table(t *store.Tx, machineIDs []string, nowMS int64) (PriceTable, error) {
	out := PriceTable{Day: say.Day(nowMS), Machines: []MoneyMachine{}, Items: []EquipmentRow{}}
	settings, err := t.Settings()
	if err != nil {
		return out, err
	}
	out.Currency = settings.Currency
	prices, err := t.Prices()
	if err != nil {
		return out, err
	}
	words, err := t.Equipments()
	if err != nil {
		return out, err
	}
	out.Items = equipment(words, machineIDs, settings.Currency)
	lookup := kit.NewLookup(t)
	for i, id := range machineIDs {
		m, err := lookup.Machine(id)
		if err != nil {
			return out, err
		}
		one, err := machineOf(m, prices, out, i)
		if err != nil {
			return out, err
		}
		out.Machines = append(out.Machines, one)
	}
	return out, nil
}

func machineOf(m bench.Machine, prices []bench.Price, table PriceTable, at int) (MoneyMachine, error) {
	out := MoneyMachine{ID: m.ID, Name: m.Name}
	var asked []cost.Asked
	out.Prices, asked = askedOf(prices, table.Currency, func(p bench.Price) bool { return quantity.Or(p.MachineID, "") == m.ID })
	var items []cost.Item
	for _, row := range table.Items {
		items = append(items, cost.Item{Name: row.Item, Need: row.Cells[at].Need, Amount: row.Cells[at].Amount})
	}
	var price *cost.Asked
	if stands := cost.PriceOn(asked, table.Day); stands >= 0 {
		out.Prices[stands].Stands, price = true, &asked[stands]
		out.Changed = changed(out.Prices, asked, stands, table)
	} else if card, err := kit.CardOfMachine(m); err != nil {
		return out, err
	} else if card.Price != nil {
		out.FromKit, price = true, &cost.Asked{Amount: &card.Price.Base, Shipping: quantity.Ptr(0.0), TaxIncluded: true}
		if card.Price.Extras > 0 {
			items = append(items, cost.Item{Name: "equipment, as on its page", Need: cost.ToBuy, Amount: &card.Price.Extras})
		}
	}
	out.Alike = cost.SameEquipment(price, items)
	out.Says = out.Alike.Says(table.Currency)
	slices.SortStableFunc(out.Prices, func(a, b PriceShown) int { return strings.Compare(b.Price.Day, a.Price.Day) })
	return out, nil
}

// askedOf are the prices of one thing as they are shown, and as they were asked: one that was taken back is of no state, so that
// it stands on no day.
func askedOf(prices []bench.Price, currency string, ofIt func(bench.Price) bool) (shown []PriceShown, asked []cost.Asked) {
	shown = []PriceShown{}
	for _, p := range prices {
		if !ofIt(p) {
			continue
		}
		shown = append(shown, PriceShown{Price: p, Total: p.Asked().Total(), Says: priceWords(p, currency)})
		if p.TakenBackMS != nil {
			asked = append(asked, cost.Asked{})
		} else {
			asked = append(asked, p.Asked())
		}
	}
	return shown, asked
}

// changed says that the price that stands is another than the one before it; empty where it is the first.
func changed(shown []PriceShown, asked []cost.Asked, stands int, table PriceTable) string {
	before := slices.Clone(asked)
	before[stands] = cost.Asked{}
	at := cost.PriceOn(before, asked[stands].Day)
	if at < 0 || asked[at].Amount == nil || asked[stands].Amount == nil || quantity.Equal(*asked[at].Total(), *asked[stands].Total()) {
		return ""
	}
	money := func(i int) string { return say.InUnit(say.Figures(*asked[i].Total(), 4), table.Currency) }
	return fmt.Sprintf("%s since %s, %s before (%s)", money(stands), asked[stands].Day, money(at), shown[at].Price.Day)
}

// priceWords are a price in words.
func priceWords(p bench.Price, currency string) string {
	text := map[string]string{"list": "list price", "offer": "offer", "coupon": "with a coupon", "pledge": "pledge to backers", "paid": "paid by the reviewer", "used": "used"}[p.State]
	if p.Amount == nil {
		text += ", not known"
	} else {
		text += " " + say.InUnit(say.Figures(*p.Amount, 4), currency)
	}
	switch {
	case p.Shipping == nil:
		text += ", shipping not known"
	case *p.Shipping > 0:
		text += ", shipping " + say.InUnit(say.Figures(*p.Shipping, 3), currency)
	}
	if !p.TaxIncluded {
		text += fmt.Sprintf(", %s %% tax to add", say.Figure(p.TaxPct))
	}
	if text += ", on " + p.Day; p.UntilDay != nil {
		text += ", until " + *p.UntilDay
	}
	text += ", " + p.Source
	if p.Note != "" {
		text += " (" + strings.TrimSuffix(p.Note, ".") + ")"
	}
	return text
}

// equipment is the newest word on each item of each machine; items stand in the order in which they were first named.
func equipment(words []bench.Equipment, machineIDs []string, currency string) []EquipmentRow {
	out := []EquipmentRow{}
	for _, w := range words {
		column := slices.Index(machineIDs, w.MachineID)
		if column < 0 {
			continue
		}
		at := slices.IndexFunc(out, func(r EquipmentRow) bool { return strings.EqualFold(r.Item, w.Item) })
		if at < 0 {
			row := EquipmentRow{Item: w.Item, Cells: make([]EquipmentCell, len(machineIDs))}
			for i := range row.Cells {
				row.Cells[i] = EquipmentCell{Need: cost.Unknown, Says: "not known"}
			}
			at, out = len(out), append(out, row)
		}
		out[at].Cells[column] = EquipmentCell{Need: w.Need, Amount: w.Amount, Source: w.Source, Says: needWords(w, currency)}
	}
	return out
}

func needWords(w bench.Equipment, currency string) string {
	text := map[string]string{cost.Included: "came with it", cost.ToBuy: "to buy, price not known", cost.NotNeeded: "not needed", cost.Unknown: "not known"}[w.Need]
	if w.Amount != nil {
		text = "to buy, " + say.InUnit(say.Figures(*w.Amount, 4), currency)
	}
	if w.Source != "" {
		text += " (" + w.Source + ")"
	}
	return text
}

// Prices reads what machines cost now, equipped alike.
func (w *Tasks) Prices(ctx context.Context, machineIDs []string) (out PriceTable, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = Table(t, machineIDs, w.NowMS())
		return err
	})
	return out, err
}

// Ask keeps a price as it was asked.
func (w *Tasks) Ask(ctx context.Context, p bench.Price) (bench.Price, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Price, error) {
		var err error
		if p.ID, err = w.NewID(); err != nil {
			return p, err
		}
		p.AtMS, p.Source, p.TakenBackMS, p.TakenBackWhy = w.NowMS(), strings.TrimSpace(p.Source), nil, ""
		if err := p.Check(); err != nil {
			return p, err
		}
		if beyond := bench.Beyond(p); len(beyond) > 0 {
			return p, beyond[0]
		}
		if err := task.OnRecord(
			task.Named{Field: "machine_id", ID: p.MachineID, Read: func(id string) error { _, err := t.Machine(id); return err }},
			task.Named{Field: "resin_id", ID: p.ResinID, Read: func(id string) error { _, err := t.Resin(id); return err }},
		); err != nil {
			return p, err
		}
		return p, t.SavePrice(p)
	})
}

// TakeBack takes a price back that was wrong, with its reason.
func (w *Tasks) TakeBack(ctx context.Context, id, why string) (bench.Price, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Price, error) {
		all, err := t.Prices()
		if err != nil {
			return bench.Price{}, err
		}
		at := slices.IndexFunc(all, func(p bench.Price) bool { return p.ID == id })
		if at < 0 {
			return bench.Price{}, fmt.Errorf("price %s: %w", id, bench.ErrNotFound)
		}
		before := all[at]
		if before.TakenBackMS != nil {
			return before, fmt.Errorf("this price was taken back before: %w", bench.ErrConflict)
		}
		after := before
		after.TakenBackMS, after.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "price", id, "take a price back", why, before, after); err != nil {
			return before, err
		}
		return after, t.SavePrice(after)
	})
}

// Equip says of an item whether a machine came with it, needs it, or does without.
func (w *Tasks) Equip(ctx context.Context, e bench.Equipment) (bench.Equipment, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Equipment, error) {
		var err error
		if e.ID, err = w.NewID(); err != nil {
			return e, err
		}
		e.AtMS, e.Item = w.NowMS(), strings.TrimSpace(e.Item)
		if err := e.Check(); err != nil {
			return e, err
		}
		if beyond := bench.Beyond(e); len(beyond) > 0 {
			return e, beyond[0]
		}
		if _, err := t.Machine(e.MachineID); err != nil {
			return e, quantity.Errorf("machine_id", "names %.40q, which is not on record (%v)", e.MachineID, err)
		}
		return e, t.SaveEquipment(e)
	})
}

// Budgeted keeps how an owner is taken to use a machine of a review.
func (w *Tasks) Budgeted(ctx context.Context, reviewID string, b bench.Budget) (bench.Budget, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Budget, error) {
		if _, err := t.Review(reviewID); err != nil {
			return b, err
		}
		before, err := BudgetOf(t, reviewID)
		if err != nil {
			return b, err
		}
		if err := task.Stale(before.Version, b.Version); err != nil {
			return b, err
		}
		b.ID, b.ReviewID, b.Version = before.ID, reviewID, before.Version+1
		if b.Paths == nil {
			b.Paths = bench.BudgetPaths{}
		}
		if b.Upkeep == nil {
			b.Upkeep = bench.BudgetItems{}
		}
		if err := b.Check(); err != nil {
			return b, err
		}
		if beyond := bench.Beyond(b); len(beyond) > 0 {
			return b, beyond[0]
		}
		if b.ID == "" {
			if b.ID, err = w.NewID(); err != nil {
				return b, err
			}
		} else if err := w.Note(t, "budget", b.ID, "change the budget", "", before, b); err != nil {
			return b, err
		}
		return b, t.SaveBudget(b)
	})
}

// usual is a budget that nobody stated.
var usual = bench.Budget{PiecesPerYear: cost.UsualPiecesPerYear, Years: cost.UsualYears, ResalePct: cost.UsualResalePct, Upkeep: bench.BudgetItems{}, Paths: bench.BudgetPaths{}}

// BudgetOf is the budget of a review, of version 0 where nobody stated one.
func BudgetOf(t *store.Tx, reviewID string) (bench.Budget, error) {
	all, err := t.Budgets()
	if err != nil {
		return usual, err
	}
	for _, b := range all {
		if b.ReviewID == reviewID {
			return b, nil
		}
	}
	out := usual
	out.ReviewID = reviewID
	return out, nil
}
