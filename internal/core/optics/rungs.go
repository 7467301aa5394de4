package optics

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Rung is what becomes of one size of a ladder wherever it falls on the grid:
// least, mean and greatest predicted width in mm over places a sixteenth of a
// pixel apart, and in how many of them, per cent, it vanishes.
type Rung struct {
	SizeMM    float64 `json:"size_mm"`
	LeastMM   float64 `json:"least_mm"`
	MeanMM    float64 `json:"mean_mm"`
	MostMM    float64 `json:"most_mm"`
	VanishPct float64 `json:"vanish_pct"`
}

const (
	phases      = 16
	acrossPixel = 32 // steps of the search for the set edge
)

// PredictLadder computes the width of long solids (or, with void, of gaps
// between solids) along x for each size > 0 mm.
func PredictLadder(sizesMM []float64, void bool, light Light) ([]Rung, error) {
	if err := light.Check(); err != nil {
		return nil, err
	}
	out := make([]Rung, len(sizesMM))
	for i, size := range sizesMM {
		if !(size > 0) || size > 20 {
			return nil, quantity.Errorf(fmt.Sprintf("sizes_mm[%d]", i), "is %s mm; sizes lie above 0 and up to 20 mm", say.Figures(size, 6))
		}
		out[i] = light.rung(size, void)
	}
	return out, nil
}

func (l Light) rung(size float64, void bool) Rung {
	cell, _, sigma := l.cell()
	out := Rung{SizeMM: size, LeastMM: math.Inf(1)}
	for phase := range phases {
		width := l.width(size, cell*(float64(phase)+0.5)/phases, cell, sigma, void)
		out.LeastMM, out.MostMM = min(out.LeastMM, width), max(out.MostMM, width)
		out.MeanMM += width / phases
		if width == 0 {
			out.VanishPct += 100.0 / phases
		}
	}
	return out
}

// width is the set width of one solid that begins at a phase of the grid, or
// the open width of one gap.
func (l Light) width(size, phase, cell, sigma float64, void bool) float64 {
	margin := math.Ceil((4*sigma+8*max(1, l.BlurPX)*cell)/cell) + 2
	n := int(2*margin + math.Ceil(size/cell) + 1)
	g := &grid{dx: cell, dy: cell, nx: n, ny: 1, v: make([]float64, n)}
	from := margin*cell + phase
	addSpan(g.v, from/cell, (from+size)/cell, 1)
	if void {
		for i, v := range g.v {
			g.v[i] = 1 - v
		}
	}
	if l.SpotUM == nil {
		l.grey(g)
	}
	var open float64
	step := cell / acrossPixel
	for k := range n * acrossPixel {
		x := (float64(k) + 0.5) * step
		if x < margin*cell/2 || x > float64(n)*cell-margin*cell/2 {
			continue
		}
		if sets := l.dose(g, x, sigma) >= l.Threshold-1e-9; sets != void {
			open += step
		}
	}
	return open
}

// dose is what a place gets from the pixels of a row.
func (l Light) dose(g *grid, x, sigma float64) (sum float64) {
	if sigma < g.dx/1000 {
		return g.v[min(int(x/g.dx), g.nx-1)]
	}
	reach := int(math.Ceil(5*sigma/g.dx)) + 1
	middle := int(x / g.dx)
	share := func(edge float64) float64 { return math.Erf((edge - x) / (sigma * math.Sqrt2)) }
	for i := max(0, middle-reach); i <= min(g.nx-1, middle+reach); i++ {
		if g.v[i] != 0 {
			sum += g.v[i] / 2 * (share(float64(i+1)*g.dx) - share(float64(i)*g.dx))
		}
	}
	return sum
}

// Circle is a polygon of 96 corners for a round rung, diameter in mm.
func Circle(x, y, diameter float64) Polygon {
	out := make(Polygon, 96)
	for i := range out {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(len(out)))
		out[i] = [2]float64{x + diameter/2*cos, y + diameter/2*sin}
	}
	return out
}
