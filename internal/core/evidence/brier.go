package evidence

// Brier is the score of a chance foretold, from 0 (said for sure, and so it was) to 1
// (said for sure, and it was not). Source: Brier 1950, for one event.
func Brier(chance float64, happened bool) float64 {
	miss := chance
	if happened {
		miss = 1 - chance
	}
	return miss * miss
}
