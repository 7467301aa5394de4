package verdict

import "ojime/internal/core/quantity"

// Much is the share of all weight from which a criterion should have something published about it: a fifth, since five criteria
// that weigh the same are about as many as a reader keeps in mind. Our own choice.
const Much = 0.2

// Heavy are the places of the weights that are at least Much of their sum. Weights are not below 0; none is heavy where all are 0. A share that differs from
// Much by rounding alone is Much.
func Heavy(weights []float64) (out []int) {
	sum := 0.0
	for _, w := range weights {
		sum += w
	}
	for i, w := range weights {
		if sum > 0 && (w/sum > Much || quantity.Equal(w/sum, Much)) {
			out = append(out, i)
		}
	}
	return out
}
