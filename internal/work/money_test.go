package work_test

import (
	"errors"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

func priced(d *desk, machine string, day, state string, amount float64, change func(*bench.Price)) bench.Price {
	p := bench.Price{MachineID: &machine, Day: day, State: state, Amount: &amount, Shipping: quantity.Ptr(0.0), TaxIncluded: true, Source: "a shop"}
	if change != nil {
		change(&p)
	}
	return must(d.w.Money.Ask(d.t.Context(), p))(d.t)
}

// A price has a day, a state and a source; an offer ends, what is not known is not nothing, and what rests on it is worked out anew.
func TestPricesEquipmentAndOwnership(t *testing.T) {
	d, review := twoPieces(t) // the desk's clock stands at the beginning of September 2026
	ctx := t.Context()
	money := func() (says, missing, machine string) {
		s := must(d.w.Readers.Money(ctx, review.ID))(t)
		return strings.Join(s.Says, "\n"), strings.Join(s.Missing, "\n"), s.Prices.Machines[0].Says
	}
	if _, missing, says := money(); says != "not known: its price" || !strings.Contains(missing, "its price equipped alike is not known") {
		t.Errorf("%s; %s", says, missing)
	}
	m := d.machine
	m.PriceList, m.PriceExtras = quantity.Ptr(400.0), 30
	m = must(d.w.Kit.SaveMachine(ctx, m))(t).Machine
	if _, _, says := money(); says != "430 €" {
		t.Error(says)
	}
	// A dated price takes the place of the one on its page; an offer takes the place of the list price while it lasts.
	priced(d, m.ID, "2026-01-10", "list", 419, nil)
	offer := priced(d, m.ID, "2026-03-01", "offer", 389, func(p *bench.Price) { p.UntilDay = quantity.Ptr("2099-03-15") })
	priced(d, m.ID, "2026-03-02", "pledge", 199, nil)
	if says, _, of := money(); of != "389 €" || !strings.Contains(says, "The price of Ossik 7 changed: 389 € since 2026-03-01, 419 € before (2026-01-10).") {
		t.Errorf("%s; %s", of, says)
	}
	must(d.w.Money.TakeBack(ctx, offer.ID, "it was another model"))(t)
	if _, _, of := money(); of != "419 €" {
		t.Error(of)
	}
	// The same equipment: unknown is unknown.
	must(d.w.Money.Equip(ctx, bench.Equipment{MachineID: m.ID, Item: "Filter", Need: "to_buy"}))(t)
	must(d.w.Money.Equip(ctx, bench.Equipment{MachineID: m.ID, Item: "Spare film", Need: "included"}))(t)
	if _, missing, of := money(); of != "at least 419 €; not known: Filter" || !strings.Contains(missing, "Filter") {
		t.Errorf("%s; %s", of, missing)
	}
	must(d.w.Money.Equip(ctx, bench.Equipment{MachineID: m.ID, Item: "filter", Need: "to_buy", Amount: quantity.Ptr(25.0), Source: "a shop"}))(t)
	sheet := must(d.w.Readers.Money(ctx, review.ID))(t)
	if of := sheet.Prices.Machines[0].Says; of != "444 €" || len(sheet.Prices.Items) != 2 || sheet.Prices.Items[0].Cells[0].Says != "to buy, 25 € (a shop)" {
		t.Errorf("%s, %+v", of, sheet.Prices.Items)
	}
	if sheet.Ownership == nil || sheet.Budget.Version != 0 || sheet.PerPiece == nil || len(sheet.Recovered) != 0 {
		t.Fatalf("%+v", sheet)
	}
	const assumed = "(assumed; nobody stated it)"
	if text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)); !strings.Contains(text, "| Owned for 3 years, 600 good pieces a year, 33 % back at the end "+assumed) {
		t.Error("the write-up does not say that nobody stated how it is owned")
	}
	b := bench.Budget{PiecesPerYear: 100, Years: 2, ResalePct: 50, Upkeep: bench.BudgetItems{{Name: "gloves", Price: 10, EveryPieces: 50}},
		PerPiece: quantity.Ptr(1.0), Paths: bench.BudgetPaths{{Name: "upgrading now", Now: 120, PerPiece: 0.8}, {Name: "buying new", Now: 300, PerPiece: 1}}}
	must(d.w.Money.Budgeted(ctx, review.ID, b))(t)
	if _, err := d.w.Money.Budgeted(ctx, review.ID, bench.Budget{PiecesPerYear: 1, Years: 1}); !errors.Is(err, bench.ErrStale) {
		t.Error(err)
	}
	sheet = must(d.w.Readers.Money(ctx, review.ID))(t)
	owned := sheet.Ownership.Options[0]
	perPiece := (owned.Total - 444 + 222) / 200 // with gloves for 0.20 in it
	if owned.PerYear*2 != owned.Total || perPiece <= 0.2 || len(sheet.Recovered) != 2 || !strings.Contains(sheet.Recovered[0].Says, "recovered after 600 good pieces") || sheet.Recovered[1].Pieces != nil {
		t.Errorf("%+v, %+v", owned, sheet.Recovered)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if strings.Contains(text, assumed) {
		t.Error("what was stated is called assumed")
	}
	for _, want := range []string{"## Money", "list price 419 €, on 2026-01-10, a shop", "| **Equipped alike** | 444 € |", "gloves, 10 € every 50 pieces", "Buying new costs 300 € more and saves nothing a piece: it is never recovered."} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}
	// Readers weigh the price equipped alike.
	must(d.w.Readers.Begin(ctx, review.ID, "first"))(t)
	for _, row := range readersOf(t, d, review.ID).Readers[0].Rows {
		if row.Name == "Price of the machine" && row.Values[0] != "444 €" {
			t.Errorf("%+v", row)
		}
	}
}

func TestMoneyThatMakesNoSense(t *testing.T) {
	d, review := twoPieces(t)
	ctx := t.Context()
	for field, change := range map[string]func(*bench.Price){
		"machine_id": func(p *bench.Price) { p.ResinID = &d.resin.ID },
		"day":        func(p *bench.Price) { p.Day = "yesterday" },
		"until_day":  func(p *bench.Price) { p.UntilDay = quantity.Ptr("2025-01-01") },
		"amount":     func(p *bench.Price) { p.Amount = quantity.Ptr(-1.0) },
		"source":     func(p *bench.Price) { p.Source = " " },
	} {
		p := bench.Price{MachineID: &d.machine.ID, Day: "2026-02-01", State: "list", Source: "x"}
		change(&p)
		_, err := d.w.Money.Ask(ctx, p)
		wantField(t, err, field)
	}
	_, err := d.w.Money.Ask(ctx, bench.Price{MachineID: quantity.Ptr("nothing"), Day: "2026-02-01", State: "list", Source: "x"})
	wantField(t, err, "machine_id")
	_, err = d.w.Money.Ask(ctx, bench.Price{ResinID: quantity.Ptr("nothing"), Day: "2026-02-01", State: "list", Source: "x"})
	wantField(t, err, "resin_id")
	_, err = d.w.Money.TakeOn(ctx, priced(d, d.machine.ID, "2026-02-01", "list", 7, nil).ID)
	if !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a machine's price was taken on for a resin: %v", err)
	}
	for field, spoil := range map[string]func(*bench.Price){"amount": func(p *bench.Price) { p.Amount = nil }, "shipping": func(p *bench.Price) { p.Shipping = nil }} {
		p := bench.Price{ResinID: &d.resin.ID, Day: "2026-02-01", State: "list", Source: "x", Amount: quantity.Ptr(20.0), Shipping: quantity.Ptr(0.0), TaxIncluded: true}
		spoil(&p)
		_, err := d.w.Money.TakeOn(ctx, must(d.w.Money.Ask(ctx, p))(t).ID)
		wantField(t, err, field)
	}
	_, err = d.w.Money.Equip(ctx, bench.Equipment{MachineID: d.machine.ID, Item: " ", Need: "included"})
	wantField(t, err, "item")
	_, err = d.w.Money.Equip(ctx, bench.Equipment{MachineID: d.machine.ID, Item: "x", Need: "included", Amount: quantity.Ptr(3.0)})
	wantField(t, err, "amount")
	for field, b := range map[string]bench.Budget{"years": {PiecesPerYear: 1}, "pieces_per_year": {Years: 1}, "upkeep[0].every_pieces": {PiecesPerYear: 1, Years: 1, Upkeep: bench.BudgetItems{{Name: "x"}}}, "paths[0].name": {PiecesPerYear: 1, Years: 1, Paths: bench.BudgetPaths{{}}}} {
		_, err := d.w.Money.Budgeted(ctx, review.ID, b)
		wantField(t, err, field)
	}
}

// A way to go on may rest on what was measured on a set-up, and says so; where that has no cost any more, it is not worked out.
func TestAWayToGoOnRestsOnWhatWasMeasured(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	priced(d, d.machine.ID, "2026-01-10", "list", 400, nil)
	sheet := must(d.w.Readers.Money(ctx, review.ID))(t)
	if len(sheet.Measured) != 2 {
		t.Fatalf("%+v", sheet.Measured)
	}
	second := sheet.Measured[1]
	budget := bench.Budget{PiecesPerYear: 300, Years: 2, PerPiece: quantity.Ptr(second.PerPiece + 0.5), Paths: bench.BudgetPaths{{Name: "upgrading now", Now: 100, MeasuredOn: &second.Ref}}}
	must(d.w.Money.Budgeted(ctx, review.ID, budget))(t)
	sheet = must(d.w.Readers.Money(ctx, review.ID))(t)
	if len(sheet.Recovered) != 1 || !strings.Contains(sheet.Recovered[0].Says, "recovered after 200 good pieces") || !strings.Contains(strings.Join(sheet.Says, " "), "upgrading now: a good piece costs "+second.Says+" then, as measured on "+second.Name) {
		t.Errorf("%+v, %v", sheet.Recovered, sheet.Says)
	}
	gone := bench.SetUpRef{ProfileID: second.Ref.ProfileID, Since: "another knot"}
	budget.Version, budget.Paths[0].MeasuredOn = sheet.Budget.Version, &gone
	must(d.w.Money.Budgeted(ctx, review.ID, budget))(t)
	if sheet = must(d.w.Readers.Money(ctx, review.ID))(t); len(sheet.Recovered) != 0 || !strings.Contains(strings.Join(sheet.Missing, " "), "upgrading now: ") {
		t.Errorf("%+v, %v", sheet.Recovered, sheet.Missing)
	}
}

// What a resin is asked for stands beside the price on its page, from which costs are worked out, until it is taken on; then what
// its prints cost, and what the write-up says of it, are of the new one.
func TestAResinIsAskedForOnADayAndTakenOn(t *testing.T) {
	d, review := twoPieces(t)
	ctx := t.Context()
	asked := func(day, state string, amount float64, change func(*bench.Price)) bench.Price {
		return priced(d, "", day, state, amount, func(p *bench.Price) {
			p.MachineID, p.ResinID, p.Source = nil, &d.resin.ID, "the maker's page"
			if change != nil {
				change(p)
			}
		})
	}
	read := func() (basis, beside string, n int) {
		s := must(d.w.Money.OfResin(ctx, d.resin.ID))(t)
		return s.Basis, s.Beside, len(s.Prices)
	}
	writeUp := func() string { return string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)) }
	page := d.resin.PriceList
	basis, beside, n := read()
	if !strings.HasSuffix(basis, "a bottle, as its page has it.") || beside != "" || n != 0 || !strings.Contains(writeUp(), basis) {
		t.Errorf("%q, %q, %d prices", basis, beside, n)
	}
	list := asked("2026-08-01", "list", page+20, nil)
	offer := asked("2026-08-20", "offer", page+10, func(p *bench.Price) { p.UntilDay = quantity.Ptr("2026-09-30") })
	if now, beside, n := read(); now != basis || !strings.HasPrefix(beside, "Asked now: offer ") || !strings.Contains(beside, "until 2026-09-30, the maker's page.") || n != 2 {
		t.Errorf("%q, %q, %d prices", now, beside, n)
	}
	costs := func() float64 { return *must(d.w.Kit.Resins(ctx))(t)[0].Price.PerLitre }
	before := costs()
	r := must(d.w.Money.TakeOn(ctx, list.ID))(t)
	if !quantity.Equal(r.PriceList, page+20) || r.Version != d.resin.Version+1 || costs() <= before {
		t.Errorf("%+v; a litre %v, %v before", r, costs(), before)
	}
	d.last("resin", r.ID) // its history has the change
	basis, beside, _ = read()
	if !strings.Contains(basis, ": list price ") || !strings.Contains(basis, "on 2026-08-01, the maker's page.") || !strings.HasPrefix(beside, "Asked now: offer") || !strings.Contains(writeUp(), basis) {
		t.Errorf("%q, %q", basis, beside)
	}
	must(d.w.Money.TakeBack(ctx, offer.ID, "it was of another size"))(t)
	if _, beside, n := read(); beside != "" || n != 2 {
		t.Errorf("%q, %d prices", beside, n)
	}
	if _, err := d.w.Money.TakeOn(ctx, offer.ID); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("a price that was taken back was taken on: %v", err)
	}
}
