package resin

import (
	"math"
	"math/rand/v2"
	"testing"
)

func TestLevelKeepsCount(t *testing.T) {
	layers := make([]float64, 100)
	for i := range layers {
		layers[i] = 1
	}
	in := LevelInput{LayersML: layers, FillML: 50, DeadML: 10, MaxML: 60}
	for _, c := range []struct {
		layer       int64
		added       float64
		level       float64
		dry         int64
		short, room float64
	}{{0, 0, 50, 41, 60, 10}, {30, 0, 20, 41, 60, 40}, {30, 40, 60, 81, 20, 0}, {80, 40, 10, 81, 20, 50}, {80, 70, 40, 0, 0, 20}, {100, 70, 20, 0, 0, 40}} {
		in.Layer, in.AddedML = c.layer, c.added
		got, err := Level(in)
		if err != nil || got.LevelML != c.level || got.ShortML != c.short || got.RoomML != c.room || (got.DryLayer == nil) != (c.dry == 0) || c.dry > 0 && *got.DryLayer != c.dry {
			t.Errorf("layer %d with %v ml added: %+v (%v), want %+v", c.layer, c.added, got, err, c)
		}
	}
	in.Layer, in.AddedML = 0, 30
	if got, err := Level(in); err != nil || !got.Has("too_full") {
		t.Errorf("%+v, %v", got, err)
	}
	in.MaxML = 5
	if _, err := Level(in); err == nil {
		t.Error("a vat below its dead volume was accepted")
	}
}

// Before the first layer it must say what the plan said.
func TestLevelAgreesWithTheBudget(t *testing.T) {
	chance := rand.New(rand.NewPCG(8, 8))
	for range 300 {
		in := LevelInput{FillML: 20 + 60*chance.Float64(), DeadML: 10 * chance.Float64(), MaxML: 90}
		budget := BudgetInput{Vat: Vat{in.FillML, in.DeadML, in.MaxML}}
		for range 1 + chance.IntN(80) {
			ml := 2 * chance.Float64()
			in.LayersML = append(in.LayersML, ml)
			budget.Layers = append(budget.Layers, Layer{ML: ml, S: 1})
			budget.SolidML += ml
		}
		level, err := Level(in)
		if err != nil {
			t.Fatal(err)
		}
		plan, err := Budget(budget)
		if err != nil {
			t.Fatal(err)
		}
		if (level.DryLayer == nil) == plan.RunsDry || plan.RunsDry && *level.DryLayer != *plan.DryLayer || math.Abs(level.ShortML-plan.ShortML) > 1e-9 {
			t.Fatalf("%+v against %+v", level, plan)
		}
	}
}
