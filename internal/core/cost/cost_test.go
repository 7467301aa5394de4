package cost

import (
	"errors"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func p[V any](v V) *V { return &v }

func wantField(t *testing.T, err error, path string) {
	t.Helper()
	var field *quantity.FieldError
	if !errors.As(err, &field) || field.Path != path {
		t.Errorf("error %v, want one of field %s", err, path)
	}
}

func TestAPriceInAllItsForms(t *testing.T) {
	for _, c := range []struct {
		name               string
		in                 PriceInput
		base, extras, paid float64
	}{
		{"as listed", PriceInput{List: 300}, 300, 0, 300},
		{"free", PriceInput{}, 0, 0, 0},
		{"discount and coupon", PriceInput{List: 300, Discount: p(40.0), Coupon: p(10.0)}, 250, 0, 250},
		{"shipping", PriceInput{List: 300, Shipping: p(25.0)}, 325, 0, 325},
		{"tax that is included", PriceInput{List: 300, TaxPct: p(20.0)}, 300, 0, 300},
		{"tax on top, on shipping too", PriceInput{List: 300, Shipping: p(50.0), TaxPct: p(20.0), TaxIncluded: p(false)}, 420, 0, 420},
		{"extras are as paid", PriceInput{List: 300, TaxPct: p(20.0), TaxIncluded: p(false), Extras: []Extra{{"filter", 30}, {"spare vat", 45}}}, 360, 75, 435},
		{"a coupon for all of it", PriceInput{List: 300, Coupon: p(300.0)}, 0, 0, 0},
	} {
		got, err := Price(c.in)
		if err != nil || !quantity.Equal(got.Base, c.base) || !quantity.Equal(got.Extras, c.extras) || !quantity.Equal(got.Paid, c.paid) || got.PerLitre != nil {
			t.Errorf("%s: %+v (%v)", c.name, got, err)
		}
	}
}

// A kilogram of a dense resin is less than a litre, so its litre is dearer than it looks.
func TestALitreIsPricedFromMassByDensity(t *testing.T) {
	for _, c := range []struct {
		bottle Bottle
		want   float64
	}{
		{Bottle{ML: p(1000.0)}, 30}, {Bottle{ML: p(500.0)}, 60}, {Bottle{G: p(1000.0), DensityGML: p(1.0)}, 30}, {Bottle{G: p(1000.0), DensityGML: p(1.2)}, 36},
		{Bottle{ML: p(1000.0), G: p(1100.0), DensityGML: p(1.1)}, 30},
	} {
		got, err := Price(PriceInput{List: 30, Bottle: &c.bottle})
		if err != nil || got.PerLitre == nil || !quantity.Equal(*got.PerLitre, c.want) {
			t.Errorf("%+v: %v (%v), want %v", c.bottle, got.PerLitre, err, c.want)
		}
	}
}

func TestPricesThatCannotBe(t *testing.T) {
	for field, in := range map[string]PriceInput{
		"list": {List: -1}, "discount": {List: 10, Discount: p(6.0), Coupon: p(5.0)}, "coupon": {List: 10, Coupon: p(-1.0)}, "shipping": {List: 10, Shipping: p(-1.0)},
		"tax_pct": {List: 10, TaxPct: p(-5.0)}, "extras[1].price": {List: 10, Extras: []Extra{{"a", 1}, {"b", -1}}}, "bottle.ml": {List: 10, Bottle: &Bottle{}},
		"bottle.density_g_ml": {List: 10, Bottle: &Bottle{G: p(1000.0)}}, "bottle.g": {List: 10, Bottle: &Bottle{G: p(0.0), DensityGML: p(1.1)}},
	} {
		_, err := Price(in)
		wantField(t, err, field)
	}
}

// plate is four copies for 2 of resin, 1 of film, 0.5 of energy and 3 of labour.
func plate() PieceInput {
	return PieceInput{ResinML: 50, ResinPerLitre: 40, Consumables: []Consumable{{"film", 20, 2000, "layer"}}, Print: Print{TotalS: 3600, LightOnS: 900, Layers: 100},
		PowerW: 1000, EnergyPerKWh: 0.5, AttendedMin: 12, LabourPerH: 15, Copies: 4, Success: Success{Good: 8, Tried: 10}}
}

func TestAPieceIsCostedPartByPart(t *testing.T) {
	got, err := Piece(plate())
	if err != nil {
		t.Fatal(err)
	}
	want := []Part{{"resin", 2}, {"film", 1}, {"energy", 0.5}, {"labour", 3}}
	for i, w := range want {
		if got.Parts[i].Name != w.Name || !quantity.Equal(got.Parts[i].Cost, w.Cost) {
			t.Errorf("%+v, want %+v", got.Parts[i], w)
		}
	}
	if !quantity.Equal(got.PrintCost, 6.5) || !quantity.Equal(got.PerCopy, 1.625) {
		t.Errorf("a print costs %v, a copy %v", got.PrintCost, got.PerCopy)
	}
	// Eight of ten are good: each carries a quarter of a failed one.
	if !quantity.Equal(*got.PerGoodPiece, 1.625*1.25) {
		t.Errorf("a good piece costs %v", *got.PerGoodPiece)
	}
	if ci := *got.PerGoodCI; ci[0] >= *got.PerGoodPiece || ci[1] <= *got.PerGoodPiece || ci[0] < got.PerCopy {
		t.Errorf("interval %v around %v", ci, *got.PerGoodPiece)
	}
}

func TestWhatWearsIsCostedByItsUnit(t *testing.T) {
	for unit, use := range map[string]float64{"s": 3600, "light_s": 900, "layer": 100, "print": 1} {
		in := plate()
		in.Consumables = []Consumable{{"part", 50, 1000, unit}}
		got, err := Piece(in)
		if err != nil || !quantity.Equal(got.Parts[1].Cost, 50*use/1000) {
			t.Errorf("%s: %+v (%v)", unit, got.Parts[1], err)
		}
	}
}

func TestWasteAndFailuresRaiseThePrice(t *testing.T) {
	in := plate()
	in.WastePct = p(10.0)
	if got, err := Piece(in); err != nil || !quantity.Equal(got.Parts[0].Cost, 2.2) {
		t.Errorf("a tenth wasted: %+v (%v)", got.Parts, err)
	}
	in = plate()
	in.FailedShare = p(0.0)
	if got, err := Piece(in); err != nil || !quantity.Equal(*got.PerGoodPiece, got.PerCopy) {
		t.Errorf("failures that cost nothing: %v (%v)", *got.PerGoodPiece, err)
	}
	in = plate()
	in.Success = Success{Good: 10, Tried: 10}
	got, err := Piece(in)
	if err != nil || !quantity.Equal(*got.PerGoodPiece, got.PerCopy) || got.PerGoodCI[1] <= got.PerCopy {
		t.Errorf("none of ten failed, and the interval is %v (%v)", got.PerGoodCI, err)
	}
}

func TestAPriceOfNothingGoodIsNotKnown(t *testing.T) {
	for code, success := range map[string]Success{"no_trials": {}, "nothing_good": {0, 3}} {
		in := plate()
		in.Success = success
		got, err := Piece(in)
		if err != nil || got.PerGoodPiece != nil || got.PerGoodCI != nil || !got.Has(code) || len(got.Warnings.Warnings) != 1 {
			t.Errorf("%s: %+v (%v)", code, got, err)
		}
	}
}

func TestPiecesThatCannotBe(t *testing.T) {
	for field, change := range map[string]func(*PieceInput){
		"resin_ml": func(in *PieceInput) { in.ResinML = -1 }, "resin_per_litre": func(in *PieceInput) { in.ResinPerLitre = -1 }, "waste_pct": func(in *PieceInput) { in.WastePct = p(-1.0) },
		"consumables[0].life": func(in *PieceInput) { in.Consumables[0].Life = 0 }, "consumables[0].price": func(in *PieceInput) { in.Consumables[0].Price = -1 },
		"consumables[0].unit": func(in *PieceInput) { in.Consumables[0].Unit = "week" }, "print.total_s": func(in *PieceInput) { in.Print.TotalS = 0 },
		"print.light_on_s": func(in *PieceInput) { in.Print.LightOnS = -1 }, "print.layers": func(in *PieceInput) { in.Print.Layers = 0 }, "power_w": func(in *PieceInput) { in.PowerW = -1 },
		"copies": func(in *PieceInput) { in.Copies = 0 }, "success.good": func(in *PieceInput) { in.Success = Success{3, 2} }, "success.tried": func(in *PieceInput) { in.Success.Tried = -1; in.Success.Good = -2 },
		"failed_share": func(in *PieceInput) { in.FailedShare = p(-0.1) }, "labour_per_h": func(in *PieceInput) { in.LabourPerH = -1 }, "attended_min": func(in *PieceInput) { in.AttendedMin = -1 },
		"energy_per_kwh": func(in *PieceInput) { in.EnergyPerKWh = -1 },
	} {
		in := plate()
		in.Consumables = []Consumable{in.Consumables[0]}
		change(&in)
		_, err := Piece(in)
		if field == "success.tried" {
			field = "success.good"
		}
		wantField(t, err, field)
	}
}

// More failures never make a good piece cheaper, and the interval holds the price.
func TestAGoodPieceIsNeverCheaperForMoreFailures(t *testing.T) {
	chance := rand.New(rand.NewPCG(5, 6))
	for range 200 {
		in := plate()
		in.Success.Tried = 2 + chance.Int64N(40)
		in.Success.Good = 2 + chance.Int64N(in.Success.Tried-1)
		better, err := Piece(in)
		if err != nil {
			t.Fatal(err)
		}
		in.Success.Good--
		worse, err := Piece(in)
		if err != nil {
			t.Fatal(err)
		}
		if *worse.PerGoodPiece <= *better.PerGoodPiece || worse.PerGoodCI[0] > *worse.PerGoodPiece || worse.PerGoodCI[1] < *worse.PerGoodPiece || worse.PerGoodCI[1] <= better.PerGoodCI[1] {
			t.Fatalf("%+v: %v %v, one good more %v %v", in.Success, *worse.PerGoodPiece, worse.PerGoodCI, *better.PerGoodPiece, better.PerGoodCI)
		}
	}
}
