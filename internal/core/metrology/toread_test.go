package metrology

import (
	"slices"
	"testing"
)

func TestWhatAnOpenQuestionNeedsIsReadFirst(t *testing.T) {
	want := []PlateToRead{{5, 3, 2}, {9, 1, 1}, {7, 8, 1}, {10, 4, 0}, {2, 4, 0}, {11, 0, 3}, {1, 0, 0}}
	got := []PlateToRead{want[6], want[3], want[1], want[5], want[0], want[4], want[2]}
	slices.SortStableFunc(got, CompareToRead)
	if !slices.Equal(got, want) {
		t.Errorf("%v", got)
	}
	if (ToRead{3, 8}).Left() != 5 {
		t.Error("what is left is what is not done")
	}
}
