package evidence

import (
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
)

// HolmInput is the p values of one table, each 0 to 1; nil is one that there is not.
type HolmInput struct {
	P []*float64 `json:"p"`
}

// HolmResult is those p values adjusted, in the given order, and how many there were.
type HolmResult struct {
	Adjusted []*float64 `json:"adjusted"`
	M        int        `json:"m"`
	quantity.Warnings
}

// Holm adjusts p values that stand in one table, so that a table of which nothing is
// so is wrong somewhere in at most one of twenty (Holm 1979).
func Holm(in HolmInput) (HolmResult, error) {
	var c quantity.Checks
	out := HolmResult{Adjusted: make([]*float64, len(in.P)), Warnings: quantity.None()}
	known := []int{}
	for i, p := range in.P {
		if p == nil {
			continue
		}
		at := fmt.Sprintf("p[%d]", i)
		c.NotBelow(at, *p)
		if *p > 1 {
			c.Fail(at, "is %v; a p lies between 0 and 1", *p)
		}
		known = append(known, i)
	}
	if c.Err() != nil {
		return HolmResult{}, c.Err()
	}
	out.M = len(known)
	slices.SortStableFunc(known, func(a, b int) int {
		switch x, y := *in.P[a], *in.P[b]; {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	})
	least := 0.0
	for rank, i := range known {
		least = math.Max(least, math.Min(1, float64(out.M-rank)**in.P[i]))
		out.Adjusted[i] = quantity.Ptr(least)
	}
	return out, nil
}
