package timing

import "ojime/internal/core/quantity"

// Load is how one machine's time grows with copies: FixedS >= 0 per plate,
// PerCopyS >= 0, one of them above 0, Capacity >= 1 copies a plate. A laser
// whose learned time is all drawing has nothing fixed.
type Load struct {
	FixedS   float64 `json:"fixed_s"`
	PerCopyS float64 `json:"per_copy_s"`
	Capacity int64   `json:"capacity"`
}

// FillInput sets two machines against each other for a number of copies.
type FillInput struct {
	A      Load  `json:"a"`
	B      Load  `json:"b"`
	Copies int64 `json:"copies"`
}

// FillResult gives times in seconds and ratios a/b. Crossover is the fewest
// copies, up to 500, at which the machine slower for one becomes the faster.
type FillResult struct {
	AS        float64 `json:"a_s"`
	BS        float64 `json:"b_s"`
	Ratio     float64 `json:"ratio"`
	PerCopyAS float64 `json:"per_copy_a_s"`
	PerCopyBS float64 `json:"per_copy_b_s"`
	Crossover *int64  `json:"crossover"`
	RatioOne  float64 `json:"ratio_one"`
	RatioFull float64 `json:"ratio_full"`
	quantity.Warnings
}

const crossoverLimit = 500

// LoadOf is how a time grows with copies, from that of a plate of one and of a plate of
// two, both in seconds: what the second adds is the share of a copy (0 where it adds
// nothing), the rest is fixed. Where two take more than twice as long as one, all of it is
// the copies'.
func LoadOf(oneS, twoS float64, capacity int64) Load {
	perCopyS := min(max(0, twoS-oneS), oneS)
	return Load{FixedS: oneS - perCopyS, PerCopyS: perCopyS, Capacity: capacity}
}

// EqualCopies is the most copies that one plate of every load holds: the fullest fill at
// which they can be compared plate by plate. 0 without loads, or where one holds none.
func EqualCopies(loads []Load) int64 {
	var most int64
	for i, l := range loads {
		if i == 0 || l.Capacity < most {
			most = l.Capacity
		}
	}
	return most
}

// Fill computes ceil(n/capacity)·fixed + n·per copy on both sides. One copy
// and a full plate are different contests, so both ratios are given.
func Fill(in FillInput) (FillResult, error) {
	var c quantity.Checks
	for _, side := range []struct {
		at string
		Load
	}{{"a", in.A}, {"b", in.B}} {
		c.NotBelow(side.at+".fixed_s", side.FixedS)
		c.NotBelow(side.at+".per_copy_s", side.PerCopyS)
		if c.Err() == nil && side.FixedS+side.PerCopyS <= 0 {
			c.Fail(side.at+".fixed_s", "is 0, and so is what a copy takes; one of them must be above 0")
		}
		c.CountAbove(side.at+".capacity", side.Capacity)
	}
	c.CountAbove("copies", in.Copies)
	if c.Err() != nil {
		return FillResult{}, c.Err()
	}
	n := float64(in.Copies)
	a, b := in.A.time(in.Copies), in.B.time(in.Copies)
	a1, b1 := in.A.time(1), in.B.time(1)
	out := FillResult{
		AS: a, BS: b, Ratio: a / b, PerCopyAS: a / n, PerCopyBS: b / n, RatioOne: a1 / b1,
		RatioFull: (in.A.time(in.A.Capacity) / float64(in.A.Capacity)) / (in.B.time(in.B.Capacity) / float64(in.B.Capacity)),
		Warnings:  quantity.None(),
	}
	slow, fast := in.A, in.B
	switch {
	case quantity.Equal(a1, b1):
		return out, nil
	case a1 < b1:
		slow, fast = in.B, in.A
	}
	for copies := int64(1); copies <= crossoverLimit; copies++ {
		if quantity.Less(slow.time(copies), fast.time(copies)) {
			out.Crossover = &copies
			break
		}
	}
	return out, nil
}

func (l Load) time(copies int64) float64 {
	plates := (copies-1)/l.Capacity + 1
	return float64(plates)*l.FixedS + float64(copies)*l.PerCopyS
}
