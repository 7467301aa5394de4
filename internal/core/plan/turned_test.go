package plan

import (
	"slices"
	"testing"
)

func TestAPlateThatWasTurnedOrMirrored(t *testing.T) {
	grid := [][2]float64{{10, 10}, {30, 10}, {50, 10}, {10, 40}, {30, 40}, {50, 40}}
	row := [][2]float64{{10, 10}, {30, 10}, {50, 10}}
	for _, c := range []struct {
		name  string
		spots [][2]float64
		first Corner
		want  []int
	}{
		{"as planned", grid, Corner{}, []int{0, 1, 2, 3, 4, 5}},
		{"turned by half", grid, Corner{Back: true, Right: true}, []int{5, 4, 3, 2, 1, 0}},
		{"mirrored left and right", grid, Corner{Right: true}, []int{2, 1, 0, 5, 4, 3}},
		{"mirrored front and back", grid, Corner{Back: true}, []int{3, 4, 5, 0, 1, 2}},
		{"one row, turned", row, Corner{Right: true}, []int{2, 1, 0}},
		{"one row has no back", row, Corner{Back: true}, []int{0, 1, 2}},
		{"a hair off the grid", [][2]float64{{10, 10}, {30.4, 10}, {50, 10}}, Corner{Right: true}, []int{2, 1, 0}},
	} {
		got, err := TurnedOrder(c.spots, c.first)
		if err != nil || !slices.Equal(got, c.want) {
			t.Errorf("%s: %v (%v), want %v", c.name, got, err, c.want)
		}
	}
	if _, err := TurnedOrder(grid[:5], Corner{Back: true, Right: true}); err == nil {
		t.Error("a grid with a hole was turned: a cell would have no exposure")
	}
	if _, err := TurnedOrder(nil, Corner{}); err == nil {
		t.Error("no copies were turned")
	}
	if got := CornerOf([][2]float64{{50, 40}, {10, 40}, {10, 10}}); got != (Corner{Back: true, Right: true}) {
		t.Errorf("the first lies at the back right, not at %+v", got)
	}
}
