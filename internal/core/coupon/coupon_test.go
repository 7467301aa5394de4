package coupon

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/mesh"
)

func made(t testing.TB, p Params) Coupon {
	t.Helper()
	c, err := Make(p)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func TestCouponIsWatertight(t *testing.T) {
	for name, p := range map[string]Params{
		"all of it": Defaults(), "a large number": {Number: 9876, PostsMM: []float64{0.2, 0.4}},
		"posts only": {PostsMM: []float64{0.2, 0.4}}, "calipers only": {Calipers: true, Number: 10}, "fits only": {ClearancesMM: []float64{0.02, 5}, Number: 3},
	} {
		t.Run(name, func(t *testing.T) {
			c := made(t, p)
			f := mesh.Measure(&mesh.Mesh{Triangles: c.Triangles})
			if f.OpenEdges != 0 || f.NonmanifoldEdges != 0 || f.SignedVolumeML <= 0 {
				t.Errorf("%d open, %d nonmanifold edges, %v ml", f.OpenEdges, f.NonmanifoldEdges, f.SignedVolumeML)
			}
			profile, err := mesh.Profile(&mesh.Mesh{Triangles: c.Triangles}, 20, nil)
			if err != nil || profile.Has("shells_overlap") || profile.Has("inverted") {
				t.Errorf("%v, %v", err, profile.Warnings)
			}
			for axis, v := range f.Size() {
				if math.Abs(v-c.SizeMM[axis]) > 0.001 {
					t.Errorf("size %v, said %v", f.Size(), c.SizeMM)
				}
			}
		})
	}
}

// ladderOnly cuts a coupon with one ladder at a height and gives area and
// outline there.
func cutAt(t *testing.T, p Params, heightMM float64) mesh.Layer {
	t.Helper()
	profile, err := mesh.Profile(&mesh.Mesh{Triangles: made(t, p).Triangles}, 10, nil)
	if err != nil {
		t.Fatal(err)
	}
	return profile.Layers[int(heightMM*100)]
}

// What stands above the base is what was asked for, to a micrometre on every
// size: areas and outlines of the slices are held against closed forms.
func TestSizesAreTrue(t *testing.T) {
	sizes := []float64{0.1, 0.37, 0.5, 2.5}
	var sum, squares float64
	for _, v := range sizes {
		sum += v
		squares += v * v
	}
	n := float64(len(sizes))
	for _, c := range []struct {
		name            string
		p               Params
		area, perimeter float64
	}{
		{"posts", Params{PostsMM: sizes}, math.Pi / 4 * squares, math.Pi * sum},
		{"walls", Params{WallsMM: sizes}, 4 * sum, 2*sum + 8*n},
		{"slots", Params{SlotsMM: sizes}, 5*(sum+2*n) - 3*sum, 2*(5+sum+2*n) + 2*sum + 6*n},
		{"holes", Params{HolesMM: sizes}, 6.5*(sum+2*n) - math.Pi/4*squares, 2*(6.5+sum+2*n) + math.Pi*sum},
		{"block and pocket", Params{Calipers: true}, 12*9 - 6*4, 2*21 + 2*10},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := cutAt(t, c.p, baseMM+2)
			// A micrometre on every side moves the area by a thousandth of the outline.
			if math.Abs(l.AreaMM2-c.area) > 0.001*c.perimeter || math.Abs(l.PerimeterMM-c.perimeter) > 0.004*n {
				t.Errorf("%+v, want %v mm² and %v mm", l, c.area, c.perimeter)
			}
		})
	}
}

func TestSocketsAreWiderThanThePegByTheClearance(t *testing.T) {
	clearances := []float64{0.05, 0.2}
	l := cutAt(t, Params{ClearancesMM: clearances}, baseMM+2)
	depth := pegMM + 0.2 + 4
	want := depth*(2*pegMM+0.25+4) + math.Pi/4*pegMM*pegMM
	for _, c := range clearances {
		want -= math.Pi / 4 * (pegMM + c) * (pegMM + c)
	}
	if math.Abs(l.AreaMM2-want) > 0.02 {
		t.Errorf("area %v, want %v", l.AreaMM2, want)
	}
}

func TestTheNumberIsRaised(t *testing.T) {
	seen := map[string]int{}
	for digit, figure := range figures {
		if other, there := seen[figure]; there {
			t.Errorf("%d looks like %d", digit, other)
		}
		seen[figure] = digit
		if digit == 0 {
			continue // a coupon without a number
		}
		l := cutAt(t, Params{Number: int64(digit), Calipers: true}, baseMM+0.5)
		// Bars join at corners of 0.1 × 0.1 mm, which count once.
		bars := float64(len(figure)) * 1.6 * 0.8
		if got := l.AreaMM2 - (12*9 - 6*4); got > bars+0.01 || got < bars-0.01*float64(2*len(figure)) {
			t.Errorf("%d: %v mm² raised, want %v", digit, got, bars)
		}
	}
	with, without := made(t, Params{Number: 7, Calipers: true}), made(t, Params{Calipers: true})
	if len(with.Triangles) <= len(without.Triangles) {
		t.Error("the number adds nothing")
	}
}

// Cells of a series lie where one footprint says: a number must not change the
// size of a coupon.
func TestNumbersDoNotChangeTheSize(t *testing.T) {
	p := Defaults()
	p.Number = 1
	want := made(t, p).SizeMM
	for _, number := range []int64{9, 10, 60, 99} {
		p.Number = number
		if got := made(t, p).SizeMM; got != want {
			t.Errorf("number %d: %v, want %v", number, got, want)
		}
	}
}

func TestFeaturesFollowTheSizes(t *testing.T) {
	c := made(t, Defaults())
	kinds := map[string]int{}
	for _, f := range c.Features {
		kinds[f.Kind]++
		if f.Name == "" || f.Place == "" || (f.Kind == "dimension") != (f.NominalMM > 0) || (f.Kind == "pins" || f.Kind == "gaps") != (len(f.RungsMM) > 1) {
			t.Errorf("%+v", f)
		}
	}
	if kinds["pins"] != 3 || kinds["gaps"] != 4 || kinds["dimension"] < 8 || kinds["checkpoint"] != 3 {
		t.Errorf("%v", kinds)
	}
}

func TestNonsenseIsNamed(t *testing.T) {
	for _, c := range []struct {
		p    Params
		path string
	}{
		{Params{}, "posts_mm"}, {Params{Number: 4}, "posts_mm"}, {Params{PostsMM: []float64{0.2}}, "posts_mm"},
		{Params{PostsMM: []float64{0.4, 0.2}}, "posts_mm[1]"}, {Params{WallsMM: []float64{0.2, math.NaN()}}, "walls_mm[1]"},
		{Params{SlotsMM: []float64{-1, 2}}, "slots_mm[0]"}, {Params{HolesMM: make([]float64, 13)}, "holes_mm"},
		{Params{Calipers: true, Number: 10000}, "number"},
	} {
		if _, err := Make(c.p); err == nil || !strings.HasPrefix(err.Error(), c.path) {
			t.Errorf("%+v: %v, want an error of %s", c.p, err, c.path)
		}
	}
}

// Every size that a coupon names is found on its mesh, and where it belongs: the pocket in its block.
func TestSizesOfACouponAreFoundOnIt(t *testing.T) {
	c := made(t, Defaults())
	at := map[string]mesh.Spot{}
	for _, f := range c.Features {
		if f.Kind != "dimension" {
			continue
		}
		spots, err := mesh.Locate(&mesh.Mesh{Triangles: c.Triangles}, []mesh.Sought{{Axis: strings.Index("xyz", f.Axis), NominalMM: f.NominalMM, Hollow: f.Face == "inner"}})
		if err != nil || len(spots[0]) == 0 {
			t.Fatalf("%s of %v mm along %s: %v, %v", f.Name, f.NominalMM, f.Axis, spots[0], err)
		}
		at[f.Name] = spots[0][0]
	}
	length, pocket := at["Block length"], at["Pocket length"]
	if length.ToMM == length.FromMM || pocket.ToMM == pocket.FromMM {
		t.Fatal("the block is not among its sizes")
	}
	if math.Abs(pocket.FromMM[0]-length.FromMM[0]-3) > 0.05 || math.Abs(length.ToMM[0]-pocket.ToMM[0]-3) > 0.05 {
		t.Errorf("the pocket from %v to %v, its block from %v to %v", pocket.FromMM, pocket.ToMM, length.FromMM, length.ToMM)
	}
}
