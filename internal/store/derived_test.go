package store

import "testing"

// What was worked out from lists that are kept stands while they are the same lists and what else it was from is equal; where a
// transaction writes, and beyond what memory holds, it is worked out again.
func TestDerivedStandsWhileItsListsDo(t *testing.T) {
	type key struct{ of string }
	type from struct {
		list List[int]
		also string
	}
	reads := &Tx{kept: newPrintsKept()}
	worked := 0
	of := func(tx *Tx, name string, list []int, also string) int {
		return Derived(tx, key{name}, from{ListOf(list), also}, func() int {
			worked++
			return len(list)
		})
	}
	list, empty := []int{1, 2, 3}, []int{}
	for i, step := range []struct {
		tx     *Tx
		name   string
		list   []int
		also   string
		want   int
		worked int
	}{
		{reads, "a", list, "x", 3, 1},
		{reads, "a", list, "x", 3, 1},
		{reads, "b", list, "x", 3, 2},
		{reads, "a", list, "y", 3, 3},
		{reads, "a", list[:2], "y", 2, 4},
		{reads, "a", list[1:], "y", 2, 5},
		{reads, "a", []int{1, 2, 3}, "y", 3, 6},
		{reads, "c", empty, "", 0, 7},
		{reads, "c", nil, "", 0, 7},
		{&Tx{}, "b", list, "x", 3, 8},
		{reads, "b", list, "x", 3, 8},
	} {
		if got := of(step.tx, step.name, step.list, step.also); got != step.want || worked != step.worked {
			t.Errorf("step %d: %d, worked out %d times; want %d, %d", i, got, worked, step.want, step.worked)
		}
	}
	for n := range mostDerived {
		Derived(reads, n, 0, func() int { return n })
	}
	if held := len(reads.kept.derived.known); held > mostDerived {
		t.Errorf("%d are held", held)
	}
}
