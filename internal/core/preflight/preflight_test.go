package preflight

import (
	"strings"
	"testing"

	"ojime/internal/core/machine"
)

func p[V any](v V) *V { return &v }

// known is a print of which everything is known and fine.
func known() Facts {
	return Facts{LiquidML: 100, DripML: 10, FillML: p(200.0), DeadML: 30, Bottle: &Bottle{"B1", machine.Bottle{AgeDays: p(20.0), PastDays: p(-90.0)}},
		Before: &LastPrint{"R-001", 4, 0, 0}, Vat: Vat{"Grey", true, false}, ResinDays: p(2.0), Plan: &Plan{"T-01", 4, nil},
		Film: machine.Wear{Amount: p(1000.0), AtLeast: 1000, SinceMS: p[int64](1), Prints: 2}, FilmLifeLayers: p(10000.0),
		Level: machine.Level{Days: p(3.0), Moved: p(false)}, Light: machine.Wear{Amount: p(10.0), AtLeast: 10, SinceMS: p[int64](1), Prints: 2}, LightLifeH: p(1000.0),
		FilterDays: p(9.0), ResinTempC: p(24.0)}
}

func state(t *testing.T, f Facts, name string) Item {
	t.Helper()
	for _, i := range Items(f) {
		if i.Item == name {
			return i
		}
	}
	t.Fatalf("there is no item %s", name)
	return Item{}
}

func TestEachItemIsJudgedByWhatIsKnown(t *testing.T) {
	for _, c := range []struct {
		name   string
		change func(*Facts)
		item   string
		state  string
		says   string
	}{
		{"enough", func(*Facts) {}, "vat", Fine, "70 ml stay to spare"},
		{"exactly twenty to spare", func(f *Facts) { f.FillML = p(150.0) }, "vat", Fine, "20 ml stay"},
		{"hardly any to spare", func(f *Facts) { f.FillML = p(149.0) }, "vat", Look, "19 ml stay"},
		{"too little", func(f *Facts) { f.FillML = p(120.0) }, "vat", Act, "fall short by 10 ml"},
		{"no vat on record", func(f *Facts) { f.FillML = nil }, "vat", Unknown, "takes 110 ml"},
		{"its own resin", func(*Facts) {}, "vat_resin", Fine, "this resin"},
		{"another resin", func(f *Facts) { f.Vat.Same = false }, "vat_resin", Act, "another resin: Grey"},
		{"another resin, cleaned away", func(f *Facts) { f.Vat.Same, f.Vat.Cleaned = false, true }, "vat_resin", Fine, "cleaned"},
		{"nobody knows which resin", func(f *Facts) { f.Vat = Vat{} }, "vat_resin", Unknown, "not on record"},
		{"a bottle is shaken", func(*Facts) {}, "bottle", Look, "opened 20 days ago"},
		{"the last day of a bottle", func(f *Facts) { f.Bottle.PastDays = p(0.0) }, "bottle", Look, "opened"},
		{"an expired bottle", func(f *Facts) { f.Bottle.PastDays = p(1.0) }, "bottle", Act, "expired 1 day ago"},
		{"a year in use", func(f *Facts) { f.Bottle.AgeDays = p(365.0) }, "bottle", Look, "365 days"},
		{"over a year in use", func(f *Facts) { f.Bottle.AgeDays = p(366.0) }, "bottle", Act, "366 days"},
		{"no day of opening", func(f *Facts) { f.Bottle.AgeDays = nil }, "bottle", Unknown, "not on record"},
		{"no bottle", func(f *Facts) { f.Bottle = nil }, "bottle", Unknown, "No bottle"},
		{"long settled", func(f *Facts) { f.ResinDays = p(8.0) }, "bottle", Look, "stir the vat"},
		{"nothing lost", func(*Facts) {}, "debris", Fine, "lost nothing"},
		{"something lost", func(f *Facts) { f.Before.Lost = 1 }, "debris", Act, "lost 1 of 4"},
		{"something lost, and cleaned", func(f *Facts) { f.Before.Lost, f.Vat.Cleaned = 1, true }, "debris", Fine, "cleaned"},
		{"not judged yet", func(f *Facts) { f.Before.Unjudged = 4 }, "debris", Look, "not judged yet"},
		{"one copy not judged yet", func(f *Facts) { f.Before.Unjudged = 1 }, "debris", Look, "not judged yet"},
		{"the first print", func(f *Facts) { f.Before = nil }, "debris", Unknown, "No print"},
		{"laid well", func(*Facts) {}, "fit", Fine, "4 copies"},
		{"laid badly", func(f *Facts) { f.Plan.Troubles = []string{"copy 2 reaches over the edge", "x"} }, "fit", Act, "2 troubles"},
		{"not laid here", func(f *Facts) { f.Plan = nil }, "fit", Unknown, "without a plan"},
		{"a young film", func(*Facts) {}, "film", Fine, "1 000 layers, 10 %"},
		{"a film at its soon", func(f *Facts) { f.Film.Amount, f.Film.AtLeast = p(8500.0), 8500 }, "film", Look, "85 %"},
		{"a film at its end", func(f *Facts) { f.Film.Amount, f.Film.AtLeast = p(10000.0), 10000 }, "film", Act, "100 %"},
		{"a film of unknown age", func(f *Facts) { f.Film.Amount = nil }, "film", Unknown, "At least 1 000 layers"},
		{"a film of unknown age that is past its life at the least", func(f *Facts) { f.Film.Amount, f.Film.AtLeast = nil, 12000 }, "film", Act, "At least"},
		{"a film of which nothing is known", func(f *Facts) { f.Film = machine.Wear{} }, "film", Unknown, "not known"},
		{"a film without a stated life", func(f *Facts) { f.FilmLifeLayers = nil }, "film", Look, "no life is stated"},
		{"a clouded film", func(f *Facts) { f.FilmClouded = true }, "film", Act, "clouded"},
		{"a young panel", func(*Facts) {}, "light", Fine, "10 h lit, 1 %"},
		{"a worn panel", func(f *Facts) { f.Light.Amount, f.Light.AtLeast = p(900.0), 900 }, "light", Look, "90 %"},
		{"a panel past its life", func(f *Facts) { f.Light.Amount, f.Light.AtLeast = p(1000.0), 1000 }, "light", Act, "100 %"},
		{"levelled", func(*Facts) {}, "level", Fine, "3 days ago"},
		{"levelled a month ago", func(f *Facts) { f.Level.Days = p(30.0) }, "level", Fine, "30 days"},
		{"levelled long ago", func(f *Facts) { f.Level.Days = p(31.0) }, "level", Look, "31 days"},
		{"moved since", func(f *Facts) { f.Level.Moved = p(true) }, "level", Act, "moved since"},
		{"never levelled", func(f *Facts) { f.Level = machine.Level{} }, "level", Unknown, "not known"},
		{"seen to be off", func(f *Facts) { f.LevelOff = true }, "level", Act, "off level"},
		{"a filter of known age", func(*Facts) {}, "filter", Fine, "9 days"},
		{"no filter on record", func(f *Facts) { f.FilterDays = nil }, "filter", Look, "No change"},
		{"warm enough", func(f *Facts) { f.ResinTempC = p(20.0) }, "temperature", Fine, "20 °C"},
		{"cold", func(f *Facts) { f.ResinTempC = p(19.9) }, "temperature", Act, "19.9 °C"},
		{"still cool", func(f *Facts) { f.ResinTempC = p(28.0) }, "temperature", Fine, "28 °C"},
		{"hot", func(f *Facts) { f.ResinTempC = p(28.1) }, "temperature", Act, "28.1 °C"},
		{"not measured yet", func(f *Facts) { f.ResinTempC, f.LastTempC = nil, &Temperature{"R-001", 23} }, "temperature", Look, "At R-001 it had 23 °C"},
		{"never known", func(f *Facts) { f.ResinTempC, f.NoThermometer = nil, true }, "temperature", Unknown, "tells no temperature"},
		{"the plate is looked at", func(*Facts) {}, "clear", Look, "cannot know"},
	} {
		f := known()
		c.change(&f)
		got := state(t, f, c.item)
		if got.State != c.state || !strings.Contains(got.Fact, c.says) {
			t.Errorf("%s: %s %q, want %s with %q", c.name, got.State, got.Fact, c.state, c.says)
		}
		if got.Must != (c.state == Act || c.item == "clear" || c.item == "caution") {
			t.Errorf("%s: must be answered is %v", c.name, got.Must)
		}
	}
}

// Of a record that knows nothing, nothing is called fine.
func TestNothingIsFineThatIsNotKnown(t *testing.T) {
	for _, i := range Items(Facts{}) {
		if i.State == Fine {
			t.Errorf("%s is called fine: %s", i.Title, i.Fact)
		}
		if i.Title == "" || i.Fact == "" || i.Why == "" {
			t.Errorf("%+v says nothing", i)
		}
	}
}
