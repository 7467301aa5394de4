package cost

import (
	"math/rand/v2"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestThePriceOfADay(t *testing.T) {
	p := quantity.Ptr[float64]
	prices := []Asked{
		{Day: "2026-01-10", State: "list", Amount: p(400)}, {Day: "2026-03-01", State: "offer", UntilDay: "2026-03-15", Amount: p(350)},
		{Day: "2026-03-02", State: "paid", Amount: p(300)}, {Day: "2026-06-01", State: "list", Amount: p(380)}, {Day: "2026-06-01", State: "coupon", Amount: p(370)}, {Day: "2026-07-01", State: "pledge", Amount: p(200)}, {Day: "2026-07-02", State: "used", Amount: p(100)},
	}
	for day, want := range map[string]int{"2026-01-09": -1, "2026-01-10": 0, "2026-02-28": 0, "2026-03-01": 1, "2026-03-15": 1, "2026-03-16": 0, "2026-05-31": 0, "2026-06-01": 4, "2026-12-31": 4} {
		if got := PriceOn(prices, day); got != want {
			t.Errorf("%s: %d, not %d", day, got, want)
		}
	}
}

func TestWhatIsPaidInTheEnd(t *testing.T) {
	p := quantity.Ptr[float64]
	for _, c := range []struct {
		a     Asked
		total *float64
		whole bool
	}{
		{Asked{Amount: p(100), Shipping: p(20), TaxPct: 19}, p(142.8), true}, {Asked{Amount: p(100), Shipping: p(20), TaxPct: 19, TaxIncluded: true}, p(120), true},
		{Asked{Amount: p(100)}, p(100), false}, {Asked{Shipping: p(20)}, nil, false},
	} {
		got := c.a.Total()
		if (got == nil) != (c.total == nil) || got != nil && !quantity.Equal(*got, *c.total) || c.a.Whole() != c.whole {
			t.Errorf("%+v: %v", c.a, got)
		}
	}
}

// What nobody knows is never counted as nothing: there is no total then.
func TestTheSameEquipment(t *testing.T) {
	p := quantity.Ptr[float64]
	price := &Asked{Amount: p(400), Shipping: p(0)}
	for want, of := range map[string]Alike{
		"440 €": SameEquipment(price, []Item{{"a filter", ToBuy, p(40)}, {"a film", Included, nil}, {"a heater", NotNeeded, nil}}),
		"at least 400 €; not known: a filter and whether a heater is needed": SameEquipment(price, []Item{{"a filter", ToBuy, nil}, {"a heater", Unknown, nil}}),
		"at least 400 €; not known: its shipping":                            SameEquipment(&Asked{Amount: p(400)}, nil),
		"at least 40 €; not known: its price":                                SameEquipment(nil, []Item{{"a filter", ToBuy, p(40)}}),
		"not known: its price":                                               SameEquipment(&Asked{}, nil),
	} {
		if got := of.Says("€"); got != want || (of.Total != nil) != (len(of.Missing) == 0) {
			t.Errorf("%s, not %s", got, want)
		}
	}
}

func TestWhenAPathIsRecovered(t *testing.T) {
	got := Recover(1.0, []Path{{"upgrading now", 120, 0, 0.8}, {"upgrading with the next panel", 120, 90, 0.8}, {"buying new", 300, 0, 1.1}, {"a gift", 20, 30, 2}}, "€")
	for i, want := range []string{
		"Upgrading now costs 120 € more and saves 0.2 € a good piece: recovered after 600 good pieces.",
		"Upgrading with the next panel costs 30 € more and saves 0.2 € a good piece: recovered after 150 good pieces.",
		"Buying new costs 300 € more and saves nothing a piece: it is never recovered.",
		"A gift costs nothing more than going on: it is recovered at once.",
	} {
		if got[i].Says != want || (got[i].Pieces == nil) != strings.Contains(want, "never") {
			t.Errorf("%+v", got[i])
		}
	}
	chance := rand.New(rand.NewPCG(8, 9))
	for range 500 {
		base, path := chance.Float64()*2, Path{"x", chance.Float64() * 500, chance.Float64() * 100, chance.Float64() * 2}
		r := Recover(base, []Path{path}, "€")[0]
		if r.Pieces == nil {
			if path.PerPiece < base-1e-6 {
				t.Fatalf("%+v against %v is never recovered", path, base)
			}
			continue
		}
		with, without := path.Now-path.Saved+*r.Pieces*path.PerPiece, *r.Pieces*base
		if with > without+1e-6 {
			t.Fatalf("%+v against %v after %v: %v more than %v", path, base, *r.Pieces, with, without)
		}
		if n := *r.Pieces - 1; n >= 0 && path.Now-path.Saved+n*path.PerPiece <= n*base-1e-6 {
			t.Fatalf("%+v against %v is recovered before %v", path, base, *r.Pieces)
		}
	}
}

// A price is the one that costs are worked out from where all of it is the same, and not where only what it comes to is.
func TestAPriceIsTheOneThatCostsAreFrom(t *testing.T) {
	asked := Asked{Day: "2026-08-03", State: "list", Amount: quantity.Ptr(40.0), Shipping: quantity.Ptr(3.0), TaxPct: 19}
	from := PriceInput{List: 40, Shipping: quantity.Ptr(3.0), TaxPct: quantity.Ptr(19.0), TaxIncluded: quantity.Ptr(false)}
	if !asked.Is(from) {
		t.Fatal("it is not the same as itself")
	}
	for name, change := range map[string]func(*Asked, *PriceInput){
		"taken back":       func(a *Asked, _ *PriceInput) { *a = Asked{} },
		"amount not known": func(a *Asked, _ *PriceInput) { a.Amount = nil },
		"no shipping":      func(a *Asked, _ *PriceInput) { a.Shipping = nil },
		"another amount":   func(_ *Asked, p *PriceInput) { p.List = 41 },
		"a discount":       func(_ *Asked, p *PriceInput) { p.Discount = quantity.Ptr(1.0) },
		"a coupon":         func(_ *Asked, p *PriceInput) { p.Coupon = quantity.Ptr(1.0) },
		"shipping":         func(_ *Asked, p *PriceInput) { p.List, p.Shipping = 43, quantity.Ptr(0.0) },
		"tax":              func(_ *Asked, p *PriceInput) { p.TaxPct = quantity.Ptr(7.0) },
		"tax included":     func(a *Asked, _ *PriceInput) { a.TaxIncluded = true },
	} {
		a, p := asked, from
		change(&a, &p)
		if a.Is(p) {
			t.Errorf("%s: still the same", name)
		}
	}
	asked.TaxIncluded, from.TaxIncluded, from.TaxPct = true, quantity.Ptr(true), nil
	if !asked.Is(from) {
		t.Error("where tax is included its rate tells nothing apart")
	}
}
