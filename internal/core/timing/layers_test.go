package timing

import (
	"math"
	"math/rand/v2"
	"testing"
)

func TestLayersAddUpToTheTotal(t *testing.T) {
	chance := rand.New(rand.NewPCG(2, 9))
	for range 200 {
		steps, start, wait, release := chance.Int64N(12), 60*chance.Float64(), chance.Float64(), 3*chance.Float64()
		in := MaskedInput{HeightMM: 0.1 + 40*chance.Float64(), LayerUM: 10 + 90*chance.Float64(), Bottom: Bottom{chance.Int64N(10), 30 * (0.1 + chance.Float64())},
			TransitionLayers: &steps, ExposureS: 0.5 + 4*chance.Float64(), StartS: &start, Wait: &Wait{AfterLiftS: &wait},
			Lift: []Move{{5, 60}}, Retract: []Move{{5, 180}}, BottomLift: []Move{{7, 40}}}
		if chance.IntN(3) == 0 {
			in.ReleaseS = &release
		}
		total, err := Masked(in)
		if err != nil {
			t.Fatal(err)
		}
		layers, err := MaskedLayers(in)
		if err != nil {
			t.Fatal(err)
		}
		sum := start
		for _, s := range layers {
			sum += s
		}
		if math.Abs(sum-total.TotalS) > 1e-9*total.TotalS || int64(len(layers)) != total.Layers {
			t.Fatalf("%+v: layers give %v s, the job %v s", in, sum, total.TotalS)
		}
	}
}
