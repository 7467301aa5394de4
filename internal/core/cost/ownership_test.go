package cost

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

// At the pieces that are told two options have cost the same, and before them the one that is dearer a piece is the
// cheaper one in all.
func TestOptionsMeetWhereTheyAreSaidTo(t *testing.T) {
	chance := rand.New(rand.NewPCG(5, 5))
	met := 0
	for range 200 {
		in := OwnershipInput{PiecesPerYear: 10 + 500*chance.Float64(), Years: 0.5 + 4*chance.Float64()}
		for _, name := range []string{"A", "B"} {
			in.Options = append(in.Options, Owned{Name: name, Paid: 1000 * chance.Float64(), Resale: quantity.Ptr(200 * chance.Float64()), PerGoodPiece: chance.Float64(),
				Replacements: []Replacement{{Name: "film", Price: 20 * chance.Float64(), EveryPieces: 50 + 400*chance.Float64()}}})
		}
		out, err := Ownership(in)
		if err != nil {
			t.Fatal(err)
		}
		for _, o := range out.Options {
			if n := in.PiecesPerYear * in.Years; math.Abs(o.PerYear*in.Years-o.Total) > 1e-9 || math.Abs(o.PerPiece*n-o.Total) > 1e-9 {
				t.Fatalf("%+v", o)
			}
		}
		pieces := out.BreakEven[0].Pieces
		if pieces == nil {
			continue
		}
		met++
		at := func(n float64) (a, b float64) {
			in.PiecesPerYear, in.Years = n, 1
			made, err := Ownership(in)
			if err != nil {
				t.Fatal(err)
			}
			return made.Options[0].Total, made.Options[1].Total
		}
		if a, b := at(*pieces); math.Abs(a-b) > 1e-6 {
			t.Errorf("at %v pieces %v and %v", *pieces, a, b)
		}
		a, b := at(*pieces / 2)
		if (a < b) != (in.Options[0].perPiece() > in.Options[1].perPiece()) {
			t.Errorf("at half of %v pieces %v and %v", *pieces, a, b)
		}
	}
	if met < 40 {
		t.Errorf("%d meet; the test sees too little", met)
	}
}
