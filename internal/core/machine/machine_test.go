package machine

import (
	"math"
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

const day = quantity.DayMS

func p[V any](v V) *V { return &v }

// prints on days 1, 3, 5 and 7, of 100 layers and an hour of light each.
func four() []Print {
	var out []Print
	for _, d := range []int64{5, 1, 7, 3} { // in no order
		out = append(out, Print{StartMS: d * day, Layers: 100, LightS: p(3600.0), ResinID: "grey"})
	}
	return out
}

func amount(w Wear) float64 { return quantity.Or(w.Amount, -1) }

func TestFilmCountsFromItsChange(t *testing.T) {
	h := New([]Knot{{AtMS: 4 * day, Kinds: []string{Film}}}, four())
	for _, c := range []struct {
		at      int64
		amount  float64
		atLeast float64
		prints  int64
	}{
		{1 * day, -1, 0, 0},     // before the first print, of which nothing is known
		{4*day - 1, -1, 200, 2}, // two prints on a film of unknown age
		{4 * day, 0, 0, 0},
		{5 * day, 0, 0, 0}, // a print does not count at its own start
		{5*day + 1, 100, 100, 1},
		{9 * day, 200, 200, 2},
	} {
		w := h.FilmWear(c.at)
		if amount(w) != c.amount || w.AtLeast != c.atLeast || w.Prints != c.prints {
			t.Errorf("at %.1f days: %+v (amount %v), want %+v", float64(c.at)/day, w, amount(w), c)
		}
	}
}

func TestACounterIsCountedOnFromAndItsGapSaid(t *testing.T) {
	h := New([]Knot{
		{AtMS: 2 * day, Kinds: []string{"counter"}, FilmLayers: p(5000.0), LightH: p(40.0)},
		{AtMS: 6 * day, Kinds: []string{"counter"}, FilmLayers: p(5350.0)},
	}, four())
	if w := h.FilmWear(4 * day); amount(w) != 5100 || !w.Reading || *w.SinceMS != 2*day || w.Beside != 0 {
		t.Errorf("%+v", w)
	}
	// Two prints made 200 layers, the counter gained 350.
	if w := h.FilmWear(9 * day); amount(w) != 5450 || w.Beside != 150 {
		t.Errorf("%+v, amount %v", w, amount(w))
	}
	if w := h.LightWear(9 * day); amount(w) != 43 {
		t.Errorf("%+v, amount %v", w, amount(w))
	}
	// A counter that shows less than was printed has no gap.
	h = New([]Knot{{AtMS: 0, Kinds: []string{Film}}, {AtMS: 6 * day, Kinds: []string{"counter"}, FilmLayers: p(250.0)}}, four())
	if w := h.FilmWear(9 * day); amount(w) != 350 || w.Beside != 0 {
		t.Errorf("%+v, amount %v", w, amount(w))
	}
}

func TestAPartOfUnknownAge(t *testing.T) {
	h := New([]Knot{{AtMS: 4 * day, Kinds: []string{Film, Panel}, UnknownBefore: true}}, four())
	if w := h.FilmWear(9 * day); w.Amount != nil || w.AtLeast != 200 || *w.SinceMS != 4*day {
		t.Errorf("%+v", w)
	}
	// A used film that comes with its count.
	h = New([]Knot{{AtMS: 4 * day, Kinds: []string{Film}, FilmLayers: p(700.0)}}, four())
	if w := h.FilmWear(9 * day); amount(w) != 900 || w.Beside != 0 {
		t.Errorf("%+v, amount %v", w, amount(w))
	}
}

func TestHiddenLightIsNotKnownAndSaysWhatIs(t *testing.T) {
	prints := four()
	prints[0].LightS = nil // that of day 5
	h := New([]Knot{{AtMS: 2 * day, Kinds: []string{Panel}}}, prints)
	if w := h.LightWear(9 * day); w.Amount != nil || w.AtLeast != 2 || w.Hidden != 1 || w.Prints != 3 {
		t.Errorf("%+v", w)
	}
	if w := h.LightWear(4 * day); amount(w) != 1 || w.Hidden != 0 {
		t.Errorf("%+v", w)
	}
	if w := h.FilmWear(4 * day); w.Hidden != 0 {
		t.Errorf("layers are not hidden: %+v", w)
	}
}

func TestSeveralThingsAtOnceEachCount(t *testing.T) {
	upgrade := Knot{AtMS: 4 * day, Kinds: []string{"upgrade", Panel}, Changes: []Change{{What: "Panel", To: "mono 9"}, {What: "firmware", To: "2.0"}}}
	h := New([]Knot{upgrade}, four())
	if w := h.LightWear(9 * day); amount(w) != 2 {
		t.Errorf("%+v", w)
	}
	if k := h.PartedAt(9 * day); k == nil || k.AtMS != 4*day {
		t.Errorf("%+v", k)
	}
	if k := h.PartedAt(4*day - 1); k != nil {
		t.Errorf("parted before: %+v", k)
	}
	if f := h.FittedAt(9 * day); f.Panel != "mono 9" || f.Firmware != "2.0" {
		t.Errorf("%+v", f)
	}
	if f := h.FittedAt(3 * day); f.Panel != "" {
		t.Errorf("fitted before: %+v", f)
	}
}

func TestWhatPartsSetUps(t *testing.T) {
	for kind, want := range map[string]bool{Panel: true, "firmware": true, "upgrade": true, "light_calibration": true, AccessoryOn: true, AccessoryOff: true,
		"plate_surface": true, Film: false, Relevel: false, "filter": false, VatClean: false, Move: false} {
		if (Knot{Kinds: []string{"incident", kind}}).Parts() != want {
			t.Errorf("%s parts: %v", kind, !want)
		}
	}
}

func TestAccessoriesComeAndGo(t *testing.T) {
	on := func(at int64, what string) Knot {
		return Knot{AtMS: at, Kinds: []string{AccessoryOn}, Changes: []Change{{What: Accessory, To: what}}}
	}
	off := on(5, "heater")
	off.Kinds = []string{AccessoryOff}
	h := New([]Knot{on(1, "heater"), on(2, "carbon filter"), on(3, "heater"), off}, nil)
	if got := h.FittedAt(4).Accessories; !slices.Equal(got, []string{"carbon filter", "heater"}) {
		t.Errorf("%v", got)
	}
	if got := h.FittedAt(6).Accessories; !slices.Equal(got, []string{"carbon filter"}) {
		t.Errorf("%v", got)
	}
}

func TestLevelAndMoves(t *testing.T) {
	h := New([]Knot{{AtMS: 2 * day, Kinds: []string{Move}}, {AtMS: 3 * day, Kinds: []string{Relevel}}, {AtMS: 6 * day, Kinds: []string{Move}}}, nil)
	for _, c := range []struct {
		at    int64
		days  float64
		moved string
	}{{day, -1, "unknown"}, {2 * day, -1, "yes"}, {3 * day, 0, "no"}, {5*day - 1, 1, "no"}, {7 * day, 4, "yes"}} {
		l := h.LevelAt(c.at)
		moved := "unknown"
		if l.Moved != nil {
			moved = map[bool]string{true: "yes", false: "no"}[*l.Moved]
		}
		if quantity.Or(l.Days, -1) != c.days || moved != c.moved {
			t.Errorf("at %.1f days: %v days, moved %s; want %+v", float64(c.at)/day, quantity.Or(l.Days, -1), moved, c)
		}
	}
}

func TestWhatTheVatHolds(t *testing.T) {
	h := New([]Knot{{AtMS: 2 * day, Kinds: []string{VatClean}}, {AtMS: 4 * day, Kinds: []string{Vat}, ResinID: "clear"}}, four())
	for _, c := range []struct {
		at   int64
		want VatHolds
	}{{day, VatHolds{}}, {day + 1, VatHolds{"grey", day, false}}, {2 * day, VatHolds{"grey", day, true}}, {4*day - 1, VatHolds{"grey", 3 * day, false}},
		{4 * day, VatHolds{"clear", 4 * day, false}}, {6 * day, VatHolds{"grey", 5 * day, false}}} {
		if got := h.VatAt(c.at); got != c.want {
			t.Errorf("at %.1f days: %+v, want %+v", float64(c.at)/day, got, c.want)
		}
	}
}

func TestPrintsSince(t *testing.T) {
	h := New(nil, four())
	if n := h.PrintsSince(3*day, 7*day); n != 2 {
		t.Errorf("%d prints from day 3 to before day 7", n)
	}
	if n := h.PrintsSince(9*day, 1*day); n != 0 {
		t.Errorf("%d prints backwards", n)
	}
	if h.Last(Film, 9*day) != nil {
		t.Error("a film was never changed")
	}
}

func TestLimits(t *testing.T) {
	for share, want := range map[float64]string{0: "fine", 0.849: "fine", 0.85: "soon", 0.999: "soon", 1: "due", 3: "due"} {
		if got := WornState(share); got != want {
			t.Errorf("%v of its life is %s, want %s", share, got, want)
		}
	}
	opened, expires := "2026-01-01", "2027-06-01"
	ms := func(text string) int64 { at, _ := quantity.Day(&text); return at + day/2 }
	for _, c := range []struct {
		on      string
		state   string
		age     float64
		expired bool
	}{
		{"2025-12-30", "fine", 0, false},
		{"2026-02-01", "fine", 31, false},
		{"2027-01-01", "fine", 365, false},
		{"2027-01-02", "soon", 366, false},
		{"2027-06-01", "soon", 516, false},
		{"2027-06-02", "due", 517, true},
	} {
		b := BottleAt(&opened, &expires, ms(c.on))
		if b.State() != c.state || *b.AgeDays != c.age || *b.Expired() != c.expired {
			t.Errorf("%s: %s, %v days, expired %v; want %+v", c.on, b.State(), *b.AgeDays, *b.Expired(), c)
		}
	}
	soon := BottleAt(nil, &expires, ms("2027-05-02"))
	if soon.State() != "soon" || BottleAt(nil, &expires, ms("2027-05-01")).State() != "fine" {
		t.Error("a bottle is named from thirty days before its last")
	}
	if none := BottleAt(nil, nil, 0); none.State() != "unknown" || none.Expired() != nil {
		t.Errorf("%+v", none)
	}
	for _, c := range []struct {
		run, plate *float64
		want       float64
	}{{nil, nil, 300}, {nil, p(120.0), 120}, {p(80.0), p(120.0), 80}, {p(900.0), nil, 300}} {
		if got := VatFill(c.run, c.plate, 300); got != c.want {
			t.Errorf("vat of %+v holds %v", c, got)
		}
	}
	for _, c := range []struct {
		reached  *int64
		ran      float64
		estimate *float64
		want     float64
	}{{p[int64](25), 900, p(1000.0), 0.25}, {nil, 300, p(1000.0), 0.3}, {nil, 3000, p(1000.0), 1}, {nil, 300, nil, 1}, {p[int64](900), 1, nil, 1}, {nil, -5, p(10.0), 0}} {
		if got := StoppedShare(c.reached, 100, c.ran, c.estimate); got != c.want {
			t.Errorf("%+v: %v", c, got)
		}
	}
}

func TestAgesOfFilmAndLight(t *testing.T) {
	prints := four()
	prints[2].LightS = nil // that of day 7
	h := New([]Knot{{AtMS: 2 * day, Kinds: []string{Film}}, {AtMS: 4 * day, Kinds: []string{Film, Panel}}}, prints)
	ages := h.FilmAges(h.prints)
	for i, want := range []Age{{math.NaN(), math.NaN(), 0}, {0, 100, 1}, {0, 100, 2}, {100, 200, 2}} {
		got := ages[i]
		if got.Life != want.Life || !(got.Before == want.Before || math.IsNaN(got.Before) && math.IsNaN(want.Before)) || !(got.After == want.After || math.IsNaN(got.After) && math.IsNaN(want.After)) {
			t.Errorf("print %d: %+v, want %+v", i, got, want)
		}
	}
	if last := h.LightAges(h.prints)[3]; last.Before != 1 || !math.IsNaN(last.After) || last.Life != 1 {
		t.Errorf("%+v", last)
	}
}
