package setup

import (
	"math"

	"ojime/internal/core/stats"
)

// How finely times are known: those that are all whole minutes were typed to the minute, others run by a clock to the second.
const (
	minuteS = 60.0
	secondS = 1.0
)

// timeResolution is how finely times in s are known, in s.
func timeResolution(sides ...[]float64) float64 {
	for _, times := range sides {
		for _, t := range times {
			if math.Mod(t, minuteS) != 0 {
				return secondS
			}
		}
	}
	return minuteS
}

// logVariance is the variance of the logarithms of times in s, not below that of what their resolution can't tell apart: a
// rectangular distribution of that width, resolution/√12 (GUM 4.3.7). Times that are equal to the minute may still differ.
func logVariance(times []float64, resolutionS float64) float64 {
	logs := logsOf(times)
	floor := resolutionS / math.Sqrt(12) / math.Exp(stats.Mean(logs))
	if len(logs) < 2 {
		return floor * floor
	}
	return math.Max(stats.SampleVar(logs), floor*floor)
}
