package stress

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/contest"
	"ojime/internal/core/mechanics"
	"ojime/internal/core/quantity"
)

func dropSeries(change func(*Series)) Series {
	kind, _ := KindOf(Drop)
	s := Series{Kind: Drop, Mode: Fresh, Under: "onto oak", Levels: []float64{200, 400, 800}, Anchors: kind.Anchors[:], FailsFrom: kind.FailsFrom, Seed: 7}
	if change != nil {
		change(&s)
	}
	return s
}

func TestASeriesSaysAllThatItNeeds(t *testing.T) {
	bar := func(s *Series) {
		*s = Series{Kind: Stiffness, Mode: Cumulative, Under: "on two rods", Levels: []float64{20, 100}, SpanMM: quantity.Ptr(40.0)}
	}
	for _, change := range []func(*Series){nil, bar, func(s *Series) { s.Mode = Cumulative }, func(s *Series) { s.Levels = []float64{1} }} {
		if err := dropSeries(change).Check(); err != nil {
			t.Errorf("%+v: %v", dropSeries(change), err)
		}
	}
	for at, spoil := range map[string]func(*Series){
		"kind":       func(s *Series) { s.Kind = "thrown" },
		"mode":       func(s *Series) { s.Mode = "twice" },
		"under":      func(s *Series) { s.Under = " " },
		"levels":     func(s *Series) { s.Levels = nil },
		"levels[1]":  func(s *Series) { s.Levels = []float64{200, 200} },
		"levels[0]":  func(s *Series) { s.Levels = []float64{0, 200} },
		"anchors":    func(s *Series) { s.Anchors = s.Anchors[:4] },
		"anchors[2]": func(s *Series) { s.Anchors = []string{"a", "b", "", "d", "e"} },
		"fails_from": func(s *Series) { s.FailsFrom = 5 },
		"span_mm":    func(s *Series) { s.SpanMM = quantity.Ptr(40.0) },
	} {
		if err := dropSeries(spoil).Check(); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("%s: %v", at, err)
		}
	}
	for at, spoil := range map[string]func(*Series){
		"span_mm": func(s *Series) { s.SpanMM = nil },
		"levels":  func(s *Series) { s.Levels = []float64{50} },
		"mode":    func(s *Series) { s.Mode = Fresh },
	} {
		if err := dropSeries(func(s *Series) { bar(s); spoil(s) }).Check(); err == nil || !strings.HasPrefix(err.Error(), at+":") {
			t.Errorf("a bar, %s: %v", at, err)
		}
	}
}

// ofPrints are so many specimens of so many prints of each of two set-ups.
func ofPrints(prints, copies int) (out []Specimen) {
	for _, setUp := range []string{"grey", "tough"} {
		for p := range prints {
			for c := range copies {
				out = append(out, Specimen{ID: fmt.Sprintf("%s-%d-%d", setUp, p, c), Print: fmt.Sprintf("%s-%d", setUp, p), SetUp: setUp})
			}
		}
	}
	return out
}

// Whatever the seed: every level gets as many of each set-up as any, to within one, and the
// copies of a print go to different levels as long as there are enough.
func TestLevelsAreDealtEvenly(t *testing.T) {
	levels := []float64{200, 400, 800}
	orders := map[string]bool{}
	for seed := range uint64(60) {
		all := ofPrints(4, 2)
		dealt := Deal(all, levels, seed)
		orders[fmt.Sprint(dealt)] = true
		of := map[string]map[float64]int{"grey": {}, "tough": {}}
		prints := map[string][]float64{}
		for i, s := range all {
			of[s.SetUp][dealt[i]]++
			if slices.Contains(prints[s.Print], dealt[i]) {
				t.Fatalf("seed %d: two copies of %s at %v", seed, s.Print, dealt[i])
			}
			prints[s.Print] = append(prints[s.Print], dealt[i])
		}
		for setUp, counts := range of {
			most, least := slices.Max(slices.Collect(maps.Values(counts))), slices.Min(slices.Collect(maps.Values(counts)))
			if len(counts) != len(levels) || most-least > 1 {
				t.Fatalf("seed %d: %s %v", seed, setUp, counts)
			}
		}
	}
	if len(orders) < 50 {
		t.Errorf("60 seeds gave %d deals", len(orders))
	}
	if again := Deal(ofPrints(4, 2), levels, 3); !slices.Equal(again, Deal(ofPrints(4, 2), levels, 3)) {
		t.Error("one seed gave two deals")
	}
}

func at(id string, level float64, damage int64) Test {
	return Test{SpecimenID: id, Level: level, Damage: &damage}
}

func TestStepsRiseAndSpareWhatFailed(t *testing.T) {
	s := dropSeries(func(s *Series) { s.Mode = Cumulative })
	all := ofPrints(2, 1)
	steps := s.Steps(all, nil)
	if len(steps) != 12 || !slices.IsSortedFunc(steps, func(a, b Step) int { return int(a.Level - b.Level) }) {
		t.Errorf("%v", steps)
	}
	tests := []Test{at(all[0].ID, 200, 3), at(all[1].ID, 200, 2)}
	for _, step := range s.Steps(all, tests) {
		if step.Specimen == 0 && step.Level > 200 {
			t.Errorf("what broke at 200 is let fall from %v", step.Level)
		}
	}
	if n := len(s.Steps(all, tests)); n != 10 {
		t.Errorf("%d steps, want 4 and three times 2", n)
	}
	fresh := dropSeries(nil)
	for i, level := range Deal(all, fresh.Levels, 1) {
		all[i].Level = &level
	}
	once := fresh.Steps(all, nil)
	if len(once) != len(all) {
		t.Errorf("%d steps for %d fresh specimens", len(once), len(all))
	}
	for _, step := range once {
		if *all[step.Specimen].Level != step.Level {
			t.Errorf("%s at %v", all[step.Specimen].ID, step.Level)
		}
	}
	bar := Series{Kind: Stiffness, Mode: Cumulative, Levels: []float64{20, 100}, Seed: 5}
	if steps := bar.Steps(all, nil); len(steps) != 8 || steps[0].Specimen != steps[1].Specimen || steps[0].Level != 20 || steps[1].Level != 100 {
		t.Errorf("a bar takes all its loads before the next: %v", steps)
	}
}

// A specimen that climbs is known once it fails or comes to the end; what it bore counts at
// every level up to there, and its failing at every level above.
func TestWhatClimbsCountsAtEveryLevel(t *testing.T) {
	s := dropSeries(func(s *Series) { s.Mode = Cumulative })
	all := ofPrints(1, 2)
	tests := []Test{at("grey-0-0", 200, 0), at("grey-0-0", 400, 3), at("grey-0-1", 200, 4), at("tough-0-0", 200, 0), at("tough-0-0", 400, 1), at("tough-0-0", 800, 2), at("tough-0-1", 200, 0)}
	codes, of := s.PrintsOf(all, tests)
	if !slices.Equal(codes, []string{"grey-0", "tough-0"}) || len(of["tough-0"].Climbed) != 1 {
		t.Fatalf("%v %+v", codes, of)
	}
	first := of["grey-0"].Climbed
	if *first[0].FailedAt != 400 || first[0].Step != 200 || *first[1].FailedAt != 200 || first[1].Step != 200 || first[1].HeldTo != 0 {
		t.Errorf("%+v", first)
	}
	rungs := Rungs([]Print{of["grey-0"], of["tough-0"]})
	got := ""
	for _, r := range rungs {
		got += fmt.Sprintf("%v: %d of %d; ", r.Level, r.Held, r.Of)
	}
	if got != "200: 2 of 3; 400: 1 of 3; 800: 1 of 3; " {
		t.Error(got)
	}
	side, held := Firsts([]Print{of["grey-0"]})
	if held != 0 || len(side.Prints) != 1 || len(side.Prints[0].Specimens) != 2 || side.Instrument.ResolutionMM != 200 {
		t.Errorf("%+v %d", side, held)
	}
	if side, held = Firsts([]Print{of["grey-0"], of["tough-0"]}); held != 1 || side.Prints != nil {
		t.Errorf("one that held to the last has no mean: %+v %d", side, held)
	}
}

func fresh(levels ...float64) (p Print) {
	for _, v := range levels {
		p.Fresh = append(p.Fresh, Once{math.Abs(v), v > 0})
	}
	return p
}

// Where every specimen is a print of its own, half hold where mechanics.Drop says, with its
// interval; where prints hold several, the interval leaves out prints, so that it is wider
// than one that counts specimens.
func TestHalfHoldsByPrints(t *testing.T) {
	prints := []Print{}
	for _, level := range []float64{200, 200, 200, 200, 200, -200, 400, 400, 400, -400, -400, -400, 800, -800, -800, -800, -800, -800} {
		prints = append(prints, fresh(level))
	}
	want, err := mechanics.Drop(mechanics.DropInput{MassG: 5, Heights: []mechanics.Fall{{HeightMM: 200, Survived: 5, Of: 6}, {HeightMM: 400, Survived: 3, Of: 6}, {HeightMM: 800, Survived: 1, Of: 6}}})
	if err != nil {
		t.Fatal(err)
	}
	half := HalfOf(prints)
	if math.Abs(*half.Level-*want.Firth.Height50MM) > 1e-9 || math.Abs(half.CI[0]-*want.Firth.CIMM[0]) > 1e-9 || half.Beyond {
		t.Errorf("%v, want %v", half, want.Firth)
	}
	alike := HalfOf([]Print{fresh(200, 400, -800), fresh(200, -400, -800), fresh(200, 400, -800), fresh(200, -400, -800)})
	if alike.Level == nil || alike.CI == nil || *alike.Level < 300 || *alike.Level > 520 || alike.CI[0] >= *alike.Level || alike.CI[1] <= *alike.Level {
		t.Errorf("%+v", alike)
	}
	if pair := HalfOf([]Print{fresh(200, -800), fresh(400, -800)}); pair.Level == nil || pair.CI != nil {
		t.Errorf("two prints have no interval: %+v", pair)
	}
	if none := HalfOf(nil); none.Level != nil {
		t.Errorf("%+v", none)
	}
	if far := HalfOf([]Print{fresh(200, 400), fresh(400, 800), fresh(800, -800)}); far.Level == nil || !far.Beyond {
		t.Errorf("half hold beyond what was tested: %+v", far)
	}
}

// Fresh specimens have a row a level, and one of each print's own highest where every print
// has one at every level; climbing ones have the level at which they first fail.
func TestWhatSidesBoreStandsInRows(t *testing.T) {
	kind, _ := KindOf(Drop)
	ladder := [][]Print{{fresh(200, 400, -800), fresh(200, -400, -800)}, {fresh(200, 400, 800), fresh(200, 400, 800)}}
	rows, err := Measures("k", "Falls", kind, ladder, [][2]int{{1, 0}})
	if err != nil || len(rows) != 4 {
		t.Fatalf("%d rows: %v", len(rows), err)
	}
	if m := rows[2]; m.Label != "Falls: survived a fall from 800 mm" || *m.Sides[0].Value != 0 || *m.Sides[1].Value != 1 || *m.Matters != matters || *m.Sides[1].Events != 2 {
		t.Errorf("%+v", m)
	}
	highest := rows[3]
	if highest.Kind != contest.Level || highest.Unit != "mm" || *highest.Sides[0].Value != 300 || *highest.Sides[1].Value != 800 || *highest.Pairs[0].Difference != 500 {
		t.Errorf("%+v", highest)
	}
	if rows, _ = Measures("k", "Falls", kind, [][]Print{{fresh(200, -800)}, {fresh(400)}}, [][2]int{{1, 0}}); len(rows) != 3 {
		t.Errorf("without a whole ladder there is no highest: %d rows", len(rows))
	}
	climbed := func(levels ...float64) (p Print) {
		for _, v := range levels {
			p.Climbed = append(p.Climbed, Climb{FailedAt: &v, HeldTo: v / 2, Step: v / 2})
		}
		return p
	}
	rows, err = Measures("k", "Falls", kind, [][]Print{{climbed(400), climbed(800)}, {climbed(400)}}, [][2]int{{1, 0}})
	if err != nil || len(rows) != 1 || *rows[0].Sides[0].Value != 600 {
		t.Errorf("%+v %v", rows, err)
	}
	held := Print{Climbed: []Climb{{HeldTo: 800}}}
	rows, err = Measures("k", "Falls", kind, [][]Print{{climbed(400)}, {held}}, [][2]int{{1, 0}})
	if err != nil || len(rows) < 3 || rows[0].Sides[1].Value != nil || !strings.Contains(rows[0].Sides[1].Note, "1 specimen held to the last") {
		t.Errorf("%+v %v", rows, err)
	}
}

// A bar's stiffness at each load above the preload is that of mechanics.Bend; what bent too
// far is left out and counted.
func TestABarIsReadFromItsPreload(t *testing.T) {
	s := Series{Kind: Stiffness, SpanMM: quantity.Ptr(40.0), Levels: []float64{20, 100, 400}}
	read := func(level, mm float64) Test { return Test{SpecimenID: "a", Level: level, DeflectionMM: &mm} }
	mpa, bent, err := s.Moduli("a", Bar{WidthMM: 8, ThicknessMM: 2}, []Test{read(100, 0.5), read(20, 0.1), read(400, 9)})
	if err != nil || bent != 1 || len(mpa) != 1 {
		t.Fatalf("%v %d %v", mpa, bent, err)
	}
	if want := 9.80665 * 0.080 * 64000 / (4 * 8 * 8 * 0.4); math.Abs(mpa[0]-want) > 1e-9*want {
		t.Errorf("%v, want %v", mpa[0], want)
	}
}

func TestAdviceSaysWhatSoManyPrintsCanShow(t *testing.T) {
	for _, c := range []struct {
		mode string
		of   []int
		want string
	}{
		{Fresh, []int{1, 1}, "1 print a side can show no difference, whatever breaks: 4 a side can"},
		{Fresh, []int{3, 6}, "3 prints a side can show no difference"},
		{Fresh, []int{4, 4}, ""},
		{Fresh, []int{5}, "One set-up"},
		{Cumulative, []int{4, 4}, "tired by every level before"},
		{Fresh, nil, ""},
	} {
		if got := strings.Join(Advice(c.mode, c.of), " "); !strings.Contains(got, c.want) || c.want == "" && got != "" {
			t.Errorf("%v: %q, want %q", c.of, got, c.want)
		}
	}
}

func TestWordsOfALevel(t *testing.T) {
	for key, want := range map[string]string{Drop: "400 mm", Bend: "40°", Fit: "25 cycles", Heat: "60 °C", Sun: "72 h", Stiffness: "50 g"} {
		kind, _ := KindOf(key)
		level := map[string]float64{Drop: 400, Bend: 40, Fit: 25, Heat: 60, Sun: 72, Stiffness: 50}[key]
		if got := kind.LevelWords(level); got != want {
			t.Errorf("%s: %q", key, got)
		}
		if !kind.Measured && !strings.Contains(kind.Held(level), want) {
			t.Errorf("%s: %q", key, kind.Held(level))
		}
	}
	if got := BrokeWords([]string{"ring", "foot", "foot"}); got != "foot (2) and ring (1)" {
		t.Error(got)
	}
	kind, _ := KindOf(Drop)
	for want, half := range map[string]Half{
		"Half hold at 640 mm (500 to 800 mm).": {Level: quantity.Ptr(640.0), CI: &quantity.Interval{500, 800}},
		"Half hold beyond what was tested, by the curve at 2300 mm; its interval cannot be known from these prints.": {Level: quantity.Ptr(2300.0), Beyond: true},
		"": {},
	} {
		if got := kind.HalfWords(half); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

func TestAHeavierPieceFallsHarder(t *testing.T) {
	g := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		a, b    *float64
		matters bool
	}{{g(11), g(10), true}, {g(10), g(11), true}, {g(10.9), g(10), false}, {nil, g(10), false}, {g(10), nil, false}} {
		if _, matters := Weights(c.a, c.b); matters != c.matters {
			t.Errorf("%+v", c)
		}
	}
}
