// Package stats holds the statistics that several subjects of the core
// share: ordinary least squares on one variable, Student's quantile and
// Wilson's interval. Distributions come from gonum.
package stats

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
)

// Z is the 0.975 quantile of the normal distribution used throughout.
const Z = 1.959963985

// T is Student's 0.975 quantile for df > 0 degrees of freedom.
func T(df float64) float64 {
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}.Quantile(0.975)
}

// Line is y = A + B·x by ordinary least squares over N points. S2 is the
// residual variance SSE/(N−2), NaN-free: 0 for N = 2, where DF is 0 and the
// variances carry no information.
type Line struct {
	A, B              float64
	N                 int
	DF                float64
	S2                float64
	VarA, VarB, CovAB float64
	MeanX, MeanY      float64
	SumXX, SumYY, SSE float64
}

// Fit fits a line. The caller guarantees len(x) == len(y) and at least two
// distinct x. Where all y are equal, B is exactly 0. Inputs are not changed.
func Fit(x, y []float64) Line {
	n := float64(len(x))
	line := Line{N: len(x), DF: n - 2}
	line.MeanX, line.MeanY = mean(x), mean(y)
	var sxy float64
	for i := range x {
		dx, dy := x[i]-line.MeanX, y[i]-line.MeanY
		line.SumXX += dx * dx
		line.SumYY += dy * dy
		sxy += dx * dy
	}
	// A slope that is only rounding noise is none: its correlation is below it.
	if allEqual(y) || math.Abs(sxy) <= quantity.RelativeNoise*math.Sqrt(line.SumXX*line.SumYY) {
		line.A, line.SSE = line.MeanY, line.SumYY
	} else {
		line.B = sxy / line.SumXX
		line.A = line.MeanY - line.B*line.MeanX
		for i := range x {
			r := y[i] - line.A - line.B*x[i]
			line.SSE += r * r
		}
	}
	if line.DF > 0 {
		line.S2 = line.SSE / line.DF
	}
	line.VarB = line.S2 / line.SumXX
	line.VarA = line.S2 * (1/n + line.MeanX*line.MeanX/line.SumXX)
	line.CovAB = -line.S2 * line.MeanX / line.SumXX
	return line
}

// At is the line's value at x.
func (l Line) At(x float64) float64 { return l.A + l.B*x }

// Wilson is the score interval of a proportion (Wilson 1927) without
// continuity correction. trials must be > 0.
func Wilson(events, trials float64) quantity.Interval {
	p, zz := events/trials, Z*Z
	centre := (p + zz/(2*trials)) / (1 + zz/trials)
	half := Z / (1 + zz/trials) * math.Sqrt(p*(1-p)/trials+zz/(4*trials*trials))
	low, high := centre-half, centre+half
	if events == 0 {
		low = 0
	}
	if events == trials {
		high = 1
	}
	return quantity.Interval{math.Max(0, low), math.Min(1, high)}
}

// Mean is the arithmetic mean of at least one value.
func Mean(v []float64) float64 { return mean(v) }

// SampleVar is the variance with n−1 of at least two values.
func SampleVar(v []float64) float64 {
	if allEqual(v) {
		return 0
	}
	m := mean(v)
	var sum float64
	for _, x := range v {
		sum += (x - m) * (x - m)
	}
	return sum / float64(len(v)-1)
}

// Median is the middle of at least one value, the mean of the two in the middle of an
// even number.
func Median(v []float64) float64 {
	sorted := slices.Sorted(slices.Values(v))
	middle := len(sorted) / 2
	if len(sorted)%2 == 1 {
		return sorted[middle]
	}
	return (sorted[middle-1] + sorted[middle]) / 2
}

// Distinct counts the values that differ as given.
func Distinct(v []float64) int {
	seen := map[float64]bool{}
	for _, x := range v {
		seen[x] = true
	}
	return len(seen)
}

func mean(v []float64) float64 {
	if allEqual(v) {
		return v[0]
	}
	var sum float64
	for _, x := range v {
		sum += x
	}
	return sum / float64(len(v))
}

func allEqual(v []float64) bool {
	for _, x := range v {
		if x != v[0] {
			return false
		}
	}
	return true
}
