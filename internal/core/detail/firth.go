package detail

import (
	"math"

	"ojime/internal/core/quantity"
)

// FirthResult is the size at which half hold by logistic regression with Jeffreys'
// penalty, in mm, with its profile interval; it exists where outcomes do not overlap,
// too. An end, or the size itself, far beyond the sizes tried is nil, and both are where
// there was no failure, no success, one size, or no rise with size.
type FirthResult struct {
	D50MM *float64     `json:"d50_mm"`
	CIMM  *[2]*float64 `json:"ci_mm"`
}

const (
	// farFactor is how far beyond the sizes tried an answer means nothing any more.
	farFactor = 10
	// flatSlope is up to which slope a ladder does not rise.
	flatSlope = 1e-6
	// chiSquare95 is the 0.95 quantile of chi-square with one degree of freedom.
	chiSquare95 = 3.841458821
)

// penalised is a ladder on the scale of ln size.
type penalised struct {
	x, intact, of []float64
}

// Half is the size at which half hold, of rungs whose sizes are > 0 in mm; rungs of equal
// size are added up. They are not changed.
func Half(rungs []Rung) FirthResult { return firth(merge(rungs)) }

// firth is the fit with its profile interval.
func firth(rungs []Rung) (out FirthResult) {
	f, d, b, top, ok := fitted(rungs)
	if !ok {
		return out
	}
	low, high := f.limits()
	out.D50MM = f.within(d)
	out.CIMM = &[2]*float64{}
	if d > low { // below the limit there is no end that means anything
		out.CIMM[0] = f.meant(f.end(d, b, top, low))
	}
	if d < high {
		out.CIMM[1] = f.meant(f.end(d, b, top, high))
	}
	return out
}

// meant is a size that lies within the limits; nil beyond them.
func (f penalised) meant(mm *float64) *float64 {
	if mm == nil {
		return nil
	}
	return f.within(math.Log(*mm))
}

// fitted fits p = 1/(1 + exp(−a − b·ln size)) by ℓ* = ℓ + ½·ln|I| (Firth 1993): d is ln of
// the size at which half hold, b the slope, top the greatest ℓ*.
func fitted(rungs []Rung) (f penalised, d, b, top float64, ok bool) {
	var intact, of float64
	for _, r := range rungs {
		f.x, f.intact, f.of = append(f.x, math.Log(r.SizeMM)), append(f.intact, float64(r.Intact)), append(f.of, float64(r.Of))
		intact, of = intact+float64(r.Intact), of+float64(r.Of)
	}
	if len(rungs) < 2 || intact == 0 || intact == of {
		return f, 0, 0, 0, false
	}
	d, b, top = f.maximum()
	return f, d, b, top, b > flatSlope
}

// limits are beyond which an answer means nothing.
func (f penalised) limits() (low, high float64) {
	return f.x[0] - math.Log(farFactor), f.x[len(f.x)-1] + math.Log(farFactor)
}

func (f penalised) within(d float64) *float64 {
	if low, high := f.limits(); d < low || d > high {
		return nil
	}
	return quantity.Exp(d)
}

// likelihood is ℓ* with half holding at d (ln size) and slope b.
func (f penalised) likelihood(d, b float64) float64 {
	var sum, iaa, iab, ibb float64
	for i, x := range f.x {
		eta := b * (x - d)
		sum += f.intact[i]*eta - f.of[i]*softplus(eta)
		p := 1 / (1 + math.Exp(-eta))
		w := f.of[i] * p * (1 - p)
		// About d the determinant of the information is the same as about 0.
		iaa, iab, ibb = iaa+w, iab+w*(x-d), ibb+w*(x-d)*(x-d)
	}
	return sum + 0.5*math.Log(iaa*ibb-iab*iab)
}

// maximum climbs ℓ* from a flat start by Firth's modified score, in a and b about the
// mean of ln size, halving steps that overshoot.
func (f penalised) maximum() (d, b, top float64) {
	var centre, of float64
	for i, x := range f.x {
		centre, of = centre+f.of[i]*x, of+f.of[i]
	}
	centre /= of
	at := func(a, b float64) float64 {
		if b == 0 {
			b = 1e-300
		}
		return f.likelihood(centre-a/b, b)
	}
	var a float64
	b = 1e-3
	top = at(a, b)
	for range 500 {
		da, db := f.step(a, b, centre)
		share := 1.0
		next := at(a+da, b+db)
		for (math.IsNaN(next) || next < top) && share > 1e-12 {
			share /= 2
			next = at(a+share*da, b+share*db)
		}
		if share <= 1e-12 {
			break
		}
		a, b, top = a+share*da, b+share*db, next
		if math.Abs(share*da)+math.Abs(share*db) < 1e-12*(1+math.Abs(a)+math.Abs(b)) {
			break
		}
	}
	return centre - a/b, b, top
}

// step is Fisher's scoring on the modified score: k − n·p + h·(½ − p), with h the
// leverage of each size.
func (f penalised) step(a, b, centre float64) (da, db float64) {
	var iaa, iab, ibb float64
	for i, x := range f.x {
		x -= centre
		p := 1 / (1 + math.Exp(-a-b*x))
		w := f.of[i] * p * (1 - p)
		iaa, iab, ibb = iaa+w, iab+w*x, ibb+w*x*x
	}
	det := iaa*ibb - iab*iab
	var ua, ub float64
	for i, x := range f.x {
		x -= centre
		p := 1 / (1 + math.Exp(-a-b*x))
		leverage := f.of[i] * p * (1 - p) * (ibb - 2*iab*x + iaa*x*x) / det
		rest := f.intact[i] - f.of[i]*p + leverage*(0.5-p)
		ua, ub = ua+rest, ub+rest*x
	}
	return (ibb*ua - iab*ub) / det, (iaa*ub - iab*ua) / det
}

// profileSteps is in how many steps an end is looked for.
const profileSteps = 150

// end is the nearest size towards a limit at which the profile falls below the interval,
// nil where it does not before the limit.
func (f penalised) end(d, b, top, limit float64) *float64 {
	slope := b
	outside := func(at float64) bool {
		var best float64
		slope, best = f.profile(at, slope)
		return 2*(top-best) > chiSquare95
	}
	inside := d
	for i := 1; i <= profileSteps; i++ {
		at := d + (limit-d)*float64(i)/profileSteps
		if !outside(at) {
			inside = at
			continue
		}
		for range 60 {
			middle := (inside + at) / 2
			if outside(middle) {
				at = middle
			} else {
				inside = middle
			}
		}
		return quantity.Exp((inside + at) / 2)
	}
	return nil
}

// profile is the greatest ℓ* over all slopes with half holding at d, near a slope.
func (f penalised) profile(d, near float64) (slope, best float64) {
	of := func(b float64) float64 {
		if b == 0 {
			b = 1e-12
		}
		if v := f.likelihood(d, b); !math.IsNaN(v) {
			return v
		}
		return math.Inf(-1)
	}
	width := 0.1 * (1 + math.Abs(near))
	low, high := near-width, near+width
	for of(low) > of(low+width) {
		low -= width
		width *= 2
	}
	width = 0.1 * (1 + math.Abs(near))
	for of(high) > of(high-width) {
		high += width
		width *= 2
	}
	return golden(of, low, high)
}

// golden finds the top of a function with one between two ends.
func golden(f func(float64) float64, low, high float64) (at, top float64) {
	ratio := (math.Sqrt(5) - 1) / 2
	x, y := high-ratio*(high-low), low+ratio*(high-low)
	fx, fy := f(x), f(y)
	for high-low > 1e-8*(1+math.Abs(low)) {
		if fx > fy {
			high, y, fy = y, x, fx
			x = high - ratio*(high-low)
			fx = f(x)
		} else {
			low, x, fx = x, y, fy
			y = low + ratio*(high-low)
			fy = f(y)
		}
	}
	return (low + high) / 2, math.Max(fx, fy)
}
