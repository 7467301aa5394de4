package plan

import (
	"math/rand/v2"
	"strings"
	"testing"
)

// block is a box seen from above, w by d mm.
func block(w, d float64) Item {
	return Item{Footprint: Footprint{Outline: []Point{{-w / 2, -d / 2}, {w / 2, -d / 2}, {w / 2, d / 2}, {-w / 2, d / 2}}, HeightMM: 10}, Scale: 1}
}

func TestDeadStripsAndSpotsBearNothing(t *testing.T) {
	plate := Plate{WidthMM: 100, DepthMM: 60, HeightMM: 100, MarginMM: 2, SpacingMM: 2}
	whole, err := Capacity(plate, block(18, 18))
	if err != nil || whole != 8 { // 4 by 2 in 96 by 56 mm
		t.Fatalf("%d copies on the whole plate (%v)", whole, err)
	}
	plate.Dead = Strips{LeftMM: 20, BackMM: 20}
	cut, err := Capacity(plate, block(18, 18))
	if err != nil || cut != 3 { // 3 by 1 in 76 by 36 mm
		t.Errorf("%d copies on what is usable, %d on the whole (%v)", cut, whole, err)
	}
	plate.Spots = []Spot{{XMM: 60, YMM: 20, RadiusMM: 1}}
	spotted, err := Capacity(plate, block(18, 18))
	if err != nil || spotted != 2 { // one on either side
		t.Errorf("%d copies beside a spot, %d without it (%v)", spotted, cut, err)
	}
	over := Review(plate, []Item{block(18, 18), block(18, 18), block(18, 18)}, []Place{{XMM: 60, YMM: 20}, {XMM: 15, YMM: 20}, {XMM: 85, YMM: 15}}, true)
	if len(over) != 2 || over[0].Code != "on_spot" || over[0].Item != 0 || over[1].Code != "off_plate" || over[1].Item != 1 || !strings.Contains(over[1].Message, "usable") {
		t.Errorf("%+v", over)
	}
	plate.Dead.RightMM = 80
	if _, err := Pack(plate, []Item{block(1, 1)}); err == nil {
		t.Error("a plate without anything usable takes a piece")
	}
}

// Whatever is packed lies well where it was put: no piece over a strip, a spot or another.
func TestNothingIsPackedOntoStripsOrSpots(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 11))
	laid := 0
	for range 200 {
		plate := Plate{WidthMM: 150, DepthMM: 90, HeightMM: 100, MarginMM: 1, SpacingMM: 2, Dead: Strips{random.Float64() * 20, random.Float64() * 20, random.Float64() * 10, random.Float64() * 10}}
		for range random.IntN(5) {
			plate.Spots = append(plate.Spots, Spot{random.Float64() * 150, random.Float64() * 90, 0.2 + random.Float64()*3})
		}
		var items []Item
		same := random.IntN(2) == 0
		for range 3 + random.IntN(12) {
			item := block(8+random.Float64()*20, 8+random.Float64()*20)
			if same && len(items) > 0 {
				item = items[0]
			}
			items = append(items, item)
		}
		places, err := Pack(plate, items)
		if err != nil {
			t.Fatal(err)
		}
		var there []Item
		var at []Place
		for i, p := range places {
			if p != nil {
				there, at = append(there, items[i]), append(at, *p)
			}
		}
		laid += len(there)
		if wrong := Review(plate, there, at, false); len(wrong) > 0 {
			t.Fatalf("%+v on %+v", wrong[0], plate)
		}
	}
	if laid < 1000 {
		t.Errorf("%d pieces were laid in all; the test sees nothing", laid)
	}
}
