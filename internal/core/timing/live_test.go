package timing

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

func TestLiveFollowsTheLayers(t *testing.T) {
	in := LiveInput{LayerS: []float64{30, 30, 10, 10, 10, 10}, StartS: 20, ModelS: 125}
	for _, c := range []struct {
		running float64
		layer   int64
		left    float64
	}{{0, 0, 125}, {19, 0, 106}, {20, 1, 105}, {49, 1, 76}, {51, 2, 74}, {85, 3, 40}, {119, 6, 6}, {125, 6, 0}, {300, 6, 0}} {
		in.RunningS = c.running
		got, err := Live(in)
		if err != nil || got.Layer != c.layer || math.Abs(got.LeftS-c.left) > 1e-9 || got.Has("overdue") != (c.running > 125) {
			t.Errorf("after %v s: %+v (%v), want layer %d and %v s left", c.running, got, err, c.layer, c.left)
		}
	}
	// Planned with twice the model's time, every layer takes twice as long.
	in.TotalS, in.TotalPI, in.RunningS = quantity.Ptr(250.0), &quantity.Interval{240, 262}, 102
	got, err := Live(in)
	if err != nil || got.Layer != 2 || got.LeftS != 148 || *got.LeftPI != (quantity.Interval{138, 160}) || got.Share != 102.0/250 {
		t.Errorf("%+v, %v", got, err)
	}
	if _, err := Live(LiveInput{ModelS: 5}); err == nil {
		t.Error("a print without layers was followed")
	}
}

func TestLiveBelievesTheMachine(t *testing.T) {
	in := LiveInput{LayerS: []float64{30, 30, 10, 10, 10, 10}, StartS: 20, ModelS: 125, RunningS: 60}
	for _, c := range []struct {
		layer   int64
		since   float64
		left    float64
		stalled bool
	}{{0, 5, 120, false}, {1, 0, 105, false}, {1, 10, 95, false}, {3, 4, 41, false}, {6, 10, 5, false}, {6, 30, 5, false}, {2, 149, 45, false}, {2, 151, 45, true}, {9, 0, 15, false}} {
		in.Layer, in.SinceLayerS = &c.layer, &c.since
		got, err := Live(in)
		if err != nil || math.Abs(got.LeftS-c.left) > 1e-9 || got.Layer != min(6, c.layer) || got.Has("stalled") != c.stalled {
			t.Errorf("layer %d since %g s: %+v (%v), want %g s left", c.layer, c.since, got, err, c.left)
		}
	}
	in.TotalS, in.TotalPI, in.Layer, in.SinceLayerS = quantity.Ptr(250.0), &quantity.Interval{200, 300}, quantity.Ptr[int64](1), quantity.Ptr(0.0)
	if got, err := Live(in); err != nil || got.LeftS != 210 || *got.LeftPI != (quantity.Interval{168, 252}) {
		t.Errorf("stretched: %+v (%v)", got, err)
	}
	in.Layer = quantity.Ptr[int64](-1)
	if _, err := Live(in); err == nil {
		t.Error("a layer below 0 was believed")
	}
}
