package verdict

import (
	"slices"
	"testing"
)

func TestWhatWeighsMuch(t *testing.T) {
	for _, c := range []struct {
		name    string
		weights []float64
		want    []int
	}{
		{"five alike are each just enough", []float64{1, 1, 1, 1, 1}, []int{0, 1, 2, 3, 4}},
		{"six alike are not", []float64{1, 1, 1, 1, 1, 1}, nil},
		{"just below and at a fifth", []float64{19.9, 20, 60.1}, []int{1, 2}},
		{"scale does not matter", []float64{0.0199, 0.02, 0.0601}, []int{1, 2}},
		{"nothing weighs", []float64{0, 0}, nil},
		{"nobody", nil, nil},
	} {
		before := slices.Clone(c.weights)
		if got := Heavy(c.weights); !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
		if !slices.Equal(before, c.weights) {
			t.Errorf("%s: its input was changed", c.name)
		}
	}
}
