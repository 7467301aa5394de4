package plan

import (
	"slices"
	"testing"
)

func TestChangesToldApart(t *testing.T) {
	for _, c := range []struct {
		name     string
		undoable []bool
		cells    int
		alone    []string
		together int
	}{
		{"one", []bool{true}, 2, []string{"a"}, 0},
		{"one for good", []bool{false}, 2, []string{"a"}, 0},
		{"two undoable", []bool{true, true}, 3, []string{"a", "b"}, 0},
		{"three undoable", []bool{true, true, true}, 4, []string{"a", "b", "c"}, 0},
		{"one of three for good", []bool{true, false, true}, 4, []string{"a", "b", "c"}, 0},
		{"two of three for good", []bool{true, false, false}, 3, []string{"a"}, 2},
		{"none undoable", []bool{false, false}, 2, nil, 2},
	} {
		names := []string{"a", "b", "c"}[:len(c.undoable)]
		got, err := Changes(ChangesInput{Names: names, Undoable: c.undoable})
		if err != nil {
			t.Fatal(err)
		}
		together := 0
		for _, g := range got.Together {
			together += len(g)
		}
		if len(got.Cells) != c.cells || !slices.Equal(got.Alone, c.alone) || together != c.together {
			t.Errorf("%s: %d cells, alone %v, together %v; want %d, %v, %d", c.name, len(got.Cells), got.Alone, got.Together, c.cells, c.alone, c.together)
		}
	}
	for _, in := range []ChangesInput{{}, {Names: []string{"a"}, Undoable: []bool{}}} {
		if _, err := Changes(in); err == nil {
			t.Errorf("%+v was taken", in)
		}
	}
}
