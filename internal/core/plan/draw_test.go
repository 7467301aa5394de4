package plan

import (
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"
)

func drawn(t *testing.T, in DrawInput) DrawResult {
	t.Helper()
	out, err := Draw(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// order is the sides of one machine as they are printed.
func order(r DrawResult, machine string) (out []int) {
	for _, p := range r.Prints {
		if p.Machine == machine {
			out = append(out, p.Side)
		}
	}
	return out
}

func TestADrawRepeatsBySeed(t *testing.T) {
	in := DrawInput{Sides: []DrawSide{{"M", "grey", 4}, {"M", "grey", 4}, {"M", "grey", 4}}, Seed: 17}
	if a, b := drawn(t, in), drawn(t, in); !reflect.DeepEqual(a, b) {
		t.Error("the same seed gives another order")
	}
	different := false
	for seed := range int64(8) {
		different = different || !reflect.DeepEqual(drawn(t, DrawInput{Sides: in.Sides, Seed: seed}), drawn(t, in))
	}
	if !different {
		t.Error("the seed changes nothing")
	}
}

// What drifts with time falls on all sides alike: in an even number of rounds each has the
// same mean place in the order.
func TestTimeGoesWithNoSide(t *testing.T) {
	for seed := range int64(20) {
		r := drawn(t, DrawInput{Sides: []DrawSide{{"M", "grey", 4}, {"M", "grey", 4}, {"M", "grey", 4}}, Seed: seed})
		sums := [3]int{}
		for at, side := range order(r, "M") {
			sums[side] += at
		}
		if sums[0] != sums[1] || sums[1] != sums[2] || r.VatChanges != 0 || len(r.FirstOnly) != 0 {
			t.Fatalf("seed %d: places add up to %v, %d vat changes, %v", seed, sums, r.VatChanges, r.FirstOnly)
		}
		for round := range 4 {
			part := slices.Clone(order(r, "M")[3*round : 3*round+3])
			if slices.Sort(part); !slices.Equal(part, []int{0, 1, 2}) {
				t.Fatalf("seed %d: a round holds %v", seed, part)
			}
		}
	}
}

// Five resins take eight changes, not the nineteen of one each print, and none of them is
// all first.
func TestAResinIsPrintedInTwoVisits(t *testing.T) {
	in := DrawInput{Seed: 5, InVat: map[string]string{"M": "C"}}
	for _, resin := range []string{"A", "B", "C", "D", "E"} {
		in.Sides = append(in.Sides, DrawSide{"M", resin, 4})
	}
	r := drawn(t, in)
	if r.VatChanges != 8 || r.LeastVatChanges != 4 || len(r.FirstOnly) != 0 {
		t.Errorf("%d changes, %d at least, %v", r.VatChanges, r.LeastVatChanges, r.FirstOnly)
	}
	if first := in.Sides[order(r, "M")[0]].Resin; first != "C" || r.Prints[0].VatChange {
		t.Errorf("begins with %s though C is in the vat", first)
	}
	in.InVat["M"] = "another"
	if other := drawn(t, in); !other.Prints[0].VatChange || other.VatChanges != 9 || other.LeastVatChanges != 5 {
		t.Errorf("%d changes, %d at least", other.VatChanges, other.LeastVatChanges)
	}
	in.Sides[0].Prints = 1 // one print has one visit: in the middle
	got := order(drawn(t, in), "M")
	if at := slices.Index(got, 0); at < 4 || at > len(got)-5 {
		t.Errorf("the single print stands at %d of %d", at+1, len(got))
	}
}

func TestMachinesMirrorEachOther(t *testing.T) {
	r := drawn(t, DrawInput{Sides: []DrawSide{{"M", "grey", 2}, {"N", "grey", 2}, {"M", "grey", 0}}, Seed: 3})
	at := map[string][]bool{}
	for _, p := range r.Prints {
		if p.Side == 2 {
			t.Error("a side of no print is printed")
		}
		at[p.Machine] = append(at[p.Machine], p.Mirrored)
	}
	if len(at["M"]) != 2 || at["M"][0] == at["M"][1] || at["M"][0] == at["N"][0] || at["N"][0] == at["N"][1] {
		t.Errorf("mirrored %v", at)
	}
	if r.Prints[2].Turn != 1 || r.Prints[3].Turn != 2 {
		t.Errorf("turns %+v", r.Prints)
	}
}

// Of sides with one print each, every second one lies mirrored.
func TestSinglePrintsLieInTurns(t *testing.T) {
	r := drawn(t, DrawInput{Sides: []DrawSide{{"M", "A", 1}, {"M", "B", 1}, {"M", "C", 1}, {"M", "D", 1}}, Seed: 9})
	for i, p := range r.Prints {
		if p.Mirrored != (r.Prints[0].Mirrored != (i%2 == 1)) {
			t.Errorf("%+v", r.Prints)
		}
	}
}

// Whatever is asked for is printed as often as asked, and with two prints a side no side is
// all before another.
func TestADrawHoldsWhatWasAskedFor(t *testing.T) {
	chance := rand.New(rand.NewPCG(8, 1))
	for range 200 {
		in := DrawInput{Seed: chance.Int64N(1000), InVat: map[string]string{}}
		fewest := int64(9)
		for range 1 + chance.IntN(6) {
			s := DrawSide{[]string{"M", "N"}[chance.IntN(2)], []string{"A", "B", "C"}[chance.IntN(3)], 1 + chance.Int64N(5)}
			in.Sides, fewest = append(in.Sides, s), min(fewest, s.Prints)
		}
		r, counts := drawn(t, in), make([]int64, len(in.Sides))
		for _, p := range r.Prints {
			counts[p.Side]++
			if in.Sides[p.Side].Machine != p.Machine {
				t.Fatalf("%+v is printed on %s", in.Sides[p.Side], p.Machine)
			}
		}
		for i, s := range in.Sides {
			if counts[i] != s.Prints {
				t.Fatalf("%+v is printed %d times", s, counts[i])
			}
		}
		if fewest >= 2 && len(r.FirstOnly) > 0 {
			t.Fatalf("%+v: %v come all first in %v", in, r.FirstOnly, r.Prints)
		}
	}
}

func TestADrawRefusesWhatCannotBe(t *testing.T) {
	for _, sides := range [][]DrawSide{{{"M", "A", -1}}, {{"M", "A", 501}}} {
		if _, err := Draw(DrawInput{Sides: sides}); err == nil {
			t.Errorf("%+v passes", sides)
		}
	}
	if r := drawn(t, DrawInput{}); len(r.Prints) != 0 || r.FirstOnly == nil {
		t.Errorf("%+v", r)
	}
}

func TestASideThatIsAllFirstIsNamed(t *testing.T) {
	// One print against two: it lies between them.
	if r := drawn(t, DrawInput{Sides: []DrawSide{{"M", "A", 1}, {"M", "A", 2}}}); len(r.FirstOnly) != 0 {
		t.Errorf("%v in %v", r.FirstOnly, r.Prints)
	}
	d := drawing{sides: []DrawSide{{"M", "A", 2}, {"M", "B", 2}}}
	if got := d.firstOnly([]int{1, 1, 0, 0}); len(got) != 1 || got[0] != [2]int{1, 0} {
		t.Errorf("%v", got)
	}
}
