package plan

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/mesh"
)

func rectangle(w, d, h float64) Item {
	return Item{Footprint{[]Point{{-w / 2, -d / 2}, {w / 2, -d / 2}, {w / 2, d / 2}, {-w / 2, d / 2}}, h}, 1}
}

func disc(diameter float64) Item {
	f := Footprint{HeightMM: 30}
	for i := range 48 {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 48)
		f.Outline = append(f.Outline, Point{diameter / 2 * cos, diameter / 2 * sin})
	}
	return Item{f, 1}
}

func copies(item Item, n int) []Item {
	out := make([]Item, n)
	for i := range out {
		out[i] = item
	}
	return out
}

func TestFootprintOfAMesh(t *testing.T) {
	body := []mesh.Triangle{{{10, 10, 0}, {30, 10, 0}, {30, 20, 5}}, {{10, 10, 0}, {30, 20, 5}, {10, 20, 2}}, {{15, 12, 9}, {16, 13, 9}, {15, 14, 9}}}
	f := FootprintOf(&mesh.Mesh{Triangles: body})
	if len(f.Outline) != 4 || f.HeightMM != 9 {
		t.Fatalf("%+v", f)
	}
	if w, d := f.box(0, 1); w != 20 || d != 10 {
		t.Errorf("box %v × %v", w, d)
	}
	if w, d := f.box(90, 0.5); w != 5 || d != 10 {
		t.Errorf("half, turned: %v × %v", w, d)
	}
}

func TestCapacity(t *testing.T) {
	plate := Plate{WidthMM: 100, DepthMM: 60, HeightMM: 150}
	for _, c := range []struct {
		name  string
		plate Plate
		item  Item
		want  int64
	}{
		{"tiles that fill it", plate, rectangle(20, 20, 10), 15},
		{"turned to fit", plate, rectangle(60, 10, 10), 10},
		{"spacing counts between only", Plate{WidthMM: 100, DepthMM: 60, HeightMM: 150, MarginMM: 0, SpacingMM: 5}, rectangle(30, 60, 10), 3},
		{"margin counts at the edges", Plate{WidthMM: 100, DepthMM: 60, HeightMM: 150, MarginMM: 5, SpacingMM: 0}, rectangle(30, 50, 10), 3},
		{"too tall", plate, rectangle(20, 20, 151), 0},
		{"too wide", plate, rectangle(101, 101, 10), 0},
		{"discs stagger", Plate{WidthMM: 100, DepthMM: 100, HeightMM: 150, MarginMM: 0, SpacingMM: 0}, disc(10), 105},
		{"one tile", plate, rectangle(100, 60, 150), 1},
	} {
		if got, err := Capacity(c.plate, c.item); err != nil || got < c.want || got > c.want+c.want/50 {
			t.Errorf("%s: %d (%v), want %d", c.name, got, err, c.want)
		}
	}
	if _, err := Capacity(Plate{WidthMM: 10, DepthMM: 10, HeightMM: 10, MarginMM: 5}, disc(1)); err == nil {
		t.Error("a plate that is all margin was accepted")
	}
}

// What Pack lays must pass Review: nothing off the plate, nothing too near.
func TestWhatIsPackedLiesWell(t *testing.T) {
	chance := rand.New(rand.NewPCG(4, 1))
	plate := Plate{WidthMM: 160, DepthMM: 90, HeightMM: 100, MarginMM: 2, SpacingMM: 1.5}
	for round := range 40 {
		var items []Item
		for range 1 + chance.IntN(60) {
			if round%4 == 0 {
				items = copies(disc(5+20*chance.Float64()), 1+chance.IntN(60))
				break
			}
			items = append(items, rectangle(3+25*chance.Float64(), 3+25*chance.Float64(), 20))
		}
		places, err := Pack(plate, items)
		if err != nil {
			t.Fatal(err)
		}
		var laid []Item
		var at []Place
		for i, p := range places {
			if p != nil {
				laid, at = append(laid, items[i]), append(at, *p)
			}
		}
		if len(laid) == 0 {
			t.Errorf("round %d: nothing was laid of %d", round, len(items))
		}
		if troubles := Review(plate, laid, at, false); len(troubles) > 0 {
			t.Fatalf("round %d: %+v", round, troubles[0])
		}
	}
}

// Numbered coupons read from left to right and from the front: all turned
// alike, none before its neighbour.
func TestGridIsInOrder(t *testing.T) {
	plate := Plate{WidthMM: 158, DepthMM: 89, HeightMM: 100, MarginMM: 2, SpacingMM: 2}
	places := Grid(plate, copies(rectangle(48, 33, 7), 6))
	for i, p := range places {
		if p == nil || p.TurnDeg != places[0].TurnDeg {
			t.Fatalf("%d lies at %+v", i, p)
		}
		if i > 0 && p.YMM == places[i-1].YMM && p.XMM <= places[i-1].XMM || i > 0 && p.YMM < places[i-1].YMM {
			t.Errorf("%d lies before %d: %+v, %+v", i, i-1, p, places[i-1])
		}
	}
	if got := Grid(plate, copies(rectangle(48, 33, 7), 7)); got[6] != nil {
		t.Errorf("the seventh found room at %+v", got[6])
	}
}

func TestReviewNamesTroubles(t *testing.T) {
	plate := Plate{WidthMM: 100, DepthMM: 60, HeightMM: 50, MarginMM: 2, SpacingMM: 2}
	items := []Item{rectangle(10, 10, 20), rectangle(10, 10, 20), rectangle(10, 10, 60), disc(10)}
	places := []Place{{10, 10, 0}, {21, 10, 0}, {97, 30, 45}, {60, 30, 0}}
	codes := map[string]int{}
	for _, trouble := range Review(plate, items, places, false) {
		codes[trouble.Code]++
	}
	if codes["too_near"] != 1 || codes["off_plate"] != 1 || codes["too_tall"] != 1 {
		t.Errorf("%v", codes)
	}
	if got := Review(plate, items[:2], []Place{{20, 20, 0}, {20, 20, 0}}, false); len(got) != 1 || got[0].Message != "overlaps its neighbour" {
		t.Errorf("one on the other: %+v", got)
	}
	if got := Review(plate, items[:2], []Place{{20, 20, 0}, {20, 20, 0}}, true); len(got) != 0 {
		t.Errorf("overlap allowed: %+v", got)
	}
	// Corner to corner, 1.5 mm along each axis is over 2 mm apart.
	if got := Review(plate, items[:2], []Place{{20, 20, 0}, {31.5, 31.5, 0}}, false); len(got) != 0 {
		t.Errorf("corner to corner: %+v", got)
	}
}

func TestWeek(t *testing.T) {
	for _, c := range []struct {
		name              string
		in                WeekInput
		plates, overnight int64
	}{
		{"a long print runs each night", WeekInput{PrintS: 12 * 3600, TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Copies: 4}, 5, 5},
		{"two a day, the second overnight", WeekInput{PrintS: 5 * 3600, TurnaroundMin: 30, FromH: 9, ToH: 17, Days: 5, Copies: 4}, 10, 5},
		{"longer than a day", WeekInput{PrintS: 30 * 3600, TurnaroundMin: 0, FromH: 9, ToH: 17, Days: 5, Copies: 1}, 4, 2},
		{"never", WeekInput{PrintS: 3600, TurnaroundMin: 600, FromH: 9, ToH: 17, Days: 5, Copies: 1}, 0, 0},
	} {
		got, err := Week(c.in)
		if err != nil || got.Plates != c.plates || got.Overnight != c.overnight || got.Copies != c.plates*c.in.Copies || got.Has("no_time") != (c.plates == 0) {
			t.Errorf("%s: %+v, %v", c.name, got, err)
		}
		for i := 1; i < len(got.Prints); i++ {
			if got.Prints[i].StartH < got.Prints[i-1].EndH {
				t.Errorf("%s: print %d starts before the one before ends", c.name, i)
			}
		}
	}
	for _, in := range []WeekInput{{PrintS: 1, FromH: 9, ToH: 9, Days: 5, Copies: 1}, {PrintS: 1, FromH: 9, ToH: 17, Days: 8, Copies: 1}, {FromH: 9, ToH: 17, Days: 5, Copies: 1}} {
		if _, err := Week(in); err == nil {
			t.Errorf("%+v was accepted", in)
		}
	}
}

func BenchmarkPackSixty(b *testing.B) {
	chance := rand.New(rand.NewPCG(4, 1))
	var items []Item
	for range 60 {
		items = append(items, rectangle(8+8*chance.Float64(), 8+8*chance.Float64(), 20))
	}
	for b.Loop() {
		if _, err := Pack(Plate{WidthMM: 220, DepthMM: 120, HeightMM: 200, MarginMM: 2, SpacingMM: 1}, items); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkCapacityOfDiscs(b *testing.B) {
	for b.Loop() {
		if _, err := Capacity(Plate{WidthMM: 220, DepthMM: 120, HeightMM: 200, MarginMM: 2, SpacingMM: 1}, disc(8)); err != nil {
			b.Fatal(err)
		}
	}
}
