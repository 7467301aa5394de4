package contest

import (
	"strings"
	"testing"

	"ojime/internal/core/evidence"
)

func levelsOf(prints ...float64) (s evidence.NestedSide) {
	for _, v := range prints {
		s.Prints = append(s.Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{v}}}})
	}
	return s
}

// Levels have a unit of their own, in the value and in the difference; a side without any was
// not tested, and one print tells of itself alone.
func TestLevelsAreToldInTheirUnit(t *testing.T) {
	m, err := Levels("k", "Falls: highest", "mm", []evidence.NestedSide{levelsOf(200, 250, 210, 240), levelsOf(800, 820, 790, 810), {}, levelsOf(400)}, [][2]int{{1, 0}, {2, 0}, {3, 0}})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := Adjust([]Measure{m}, nil); err != nil {
		t.Fatal(err)
	}
	if m.Kind != Level || m.Unit != "mm" || *m.Sides[0].Value != 225 || m.Sides[2].Note != "Not tested." || m.Sides[3].Note != OnePrint {
		t.Errorf("%+v", m.Sides)
	}
	names := []string{"A", "B", "C", "D"}
	if got := Sentence(m, m.Pairs[0], names, Counted{Table: 1}); !strings.HasPrefix(got, "Falls: highest: B 805 mm (4 prints), A 225 mm (4 prints); clearly different (p below") {
		t.Error(got)
	}
	if got := Sentence(m, m.Pairs[1], names, Counted{Table: 1}); got != "Falls: highest: C not known, A 225 mm (4 prints). A side has no figure here." {
		t.Error(got)
	}
	if got := m.Apart(m.Pairs[0]); !strings.HasPrefix(got, "+580 mm (+") {
		t.Error(got)
	}
	bent := m
	bent.Unit = "°"
	if got := bent.Apart(m.Pairs[0]); !strings.HasPrefix(got, "+580° (+") {
		t.Error(got)
	}
	steep, err := Levels("k", "Stiffness", "MPa", []evidence.NestedSide{levelsOf(2100), levelsOf(1300)}, [][2]int{{1, 0}})
	if err != nil || steep.Unit != "MPa" || *steep.Pairs[0].Difference != -800 || steep.Pairs[0].P != nil {
		t.Errorf("%+v %v", steep.Pairs, err)
	}
}
