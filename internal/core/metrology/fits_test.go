package metrology

import (
	"reflect"
	"testing"
)

func TestFitsAsMatingPartsByClearances(t *testing.T) {
	tries := []FitTry{
		{"peg 5", []FitRung{{0.05, "no"}, {0.1, "tight"}, {0.2, "loose"}}},
		{"peg 4.9", []FitRung{{0.05, "tight"}, {0.1, "holds"}, {0.2, "loose"}}},
		{"peg 5", []FitRung{{0.05, "no"}, {0.1, "no"}, {0.2, "holds"}}},
		{"peg 5", []FitRung{{0.05, "no"}, {0.1, "no"}}}, // goes nowhere, and 0.2 was not tried
	}
	rows := FitMatrix([]float64{0.05, 0.1, 0.2}, tries)
	if len(rows) != 2 || rows[0].Mate != "peg 4.9" || rows[1].Mate != "peg 5" || rows[1].Tries != 3 {
		t.Fatalf("%+v", rows)
	}
	want := []FitCell{{0.05, 3, "does not go 3"}, {0.1, 3, "does not go 2, tight 1"}, {0.2, 2, "holds 1, loose 1"}}
	if !reflect.DeepEqual(rows[1].Cells, want) {
		t.Errorf("%+v, want %+v", rows[1].Cells, want)
	}
	if says := "tightest that goes 0.1 to 0.2 mm (none in 1 of 3), loosest that holds 0.1 to 0.2 mm (none in 1 of 3)"; rows[1].Says != says {
		t.Errorf("%q, want %q", rows[1].Says, says)
	}
	if says := "tightest that goes 0.05 mm, loosest that holds 0.1 mm"; rows[0].Says != says {
		t.Errorf("%q, want %q", rows[0].Says, says)
	}
	if got := FitMatrix([]float64{0.1}, nil); got == nil || len(got) != 0 {
		t.Errorf("no tries: %v, want an empty list", got)
	}
}

func TestAClearanceNeverTriedSaysNothing(t *testing.T) {
	row := FitMatrix([]float64{0.05, 0.1}, []FitTry{{"a pin", []FitRung{{0.1, "no"}}}})[0]
	if row.Cells[0].Words != "" || row.Cells[0].Tried != 0 || row.Says != "tightest that goes none, loosest that holds none" {
		t.Errorf("%+v", row)
	}
}
