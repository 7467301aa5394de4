package metrology

import (
	"slices"
	"testing"
)

// Every part is measured once by every operator in every round, whatever the seed; the order
// is the seed's, and no part follows itself by the same hand.
func TestTheOrderOfAStudy(t *testing.T) {
	for seed := range uint64(200) {
		const parts, operators, repeats = 4, 2, 3
		steps := StudyOrder(parts, operators, repeats, seed)
		seen := map[StudyStep]int{}
		for i, s := range steps {
			seen[s]++
			if s.Round != i/(parts*operators) {
				t.Fatalf("seed %d: step %d is of round %d", seed, i, s.Round)
			}
			if i > 0 && steps[i-1].Part == s.Part && steps[i-1].Operator == s.Operator {
				t.Fatalf("seed %d: part %d follows itself", seed, s.Part)
			}
		}
		if len(steps) != parts*operators*repeats || len(seen) != len(steps) {
			t.Fatalf("seed %d: %d steps, %d different", seed, len(steps), len(seen))
		}
	}
	if !slices.Equal(StudyOrder(5, 1, 2, 7), StudyOrder(5, 1, 2, 7)) || slices.Equal(StudyOrder(5, 1, 2, 7), StudyOrder(5, 1, 2, 8)) {
		t.Error("the order does not hang on the seed alone")
	}
}

func TestReadingsFindTheirPart(t *testing.T) {
	steps := StudyOrder(3, 2, 2, 11)
	readings := make([]float64, len(steps))
	for i, s := range steps {
		readings[i] = float64(100*s.Part + 10*s.Operator + s.Round)
	}
	values := StudyValues(steps, readings)
	for part := range 3 {
		for operator := range 2 {
			for round := range 2 {
				if got := values[part][operator][round]; got != float64(100*part+10*operator+round) {
					t.Errorf("part %d, operator %d, round %d has %v", part, operator, round, got)
				}
			}
		}
	}
}
