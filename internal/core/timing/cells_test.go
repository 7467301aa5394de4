package timing

import "testing"

func TestCellsOfOnePlate(t *testing.T) {
	for _, c := range []struct {
		name           string
		exposures      []float64
		bottom         float64
		inTurn         bool
		layer, bottoms float64
	}{
		{"together: the longest lights them all", []float64{2, 3, 2.5}, 30, false, 3, 30},
		{"in turn: one after the other, bottoms too", []float64{2, 3, 2.5}, 30, true, 7.5, 90},
		{"one cell is itself either way", []float64{2.5}, 30, true, 2.5, 30},
	} {
		layer, bottom := LitTogether(c.exposures, c.bottom, c.inTurn)
		if layer != c.layer || bottom != c.bottoms {
			t.Errorf("%s: %v s a layer and %v s a bottom layer, want %v and %v", c.name, layer, bottom, c.layer, c.bottoms)
		}
	}
}

func TestOnePlateACellWaitsBetween(t *testing.T) {
	for _, c := range []struct {
		plates         []float64
		turnaround     float64
		printing, with float64
	}{
		{[]float64{1000, 1100, 1200}, 15, 3300, 5100},
		{[]float64{1000}, 15, 1000, 1000},
		{nil, 15, 0, 0},
	} {
		printing, with := CellByCell(c.plates, c.turnaround)
		if printing != c.printing || with != c.with {
			t.Errorf("%v: %v and %v s, want %v and %v", c.plates, printing, with, c.printing, c.with)
		}
	}
}
