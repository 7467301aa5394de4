package optics

import (
	"image"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Polygon is a closed outline in mm; several together enclose what winds round
// more than zero times.
type Polygon [][2]float64

// Light is how a machine draws and what the resin does with it. A masked
// machine has a pitch, a laser a spot: the one that is not given is nil.
//
// GreyLevels is 2 (on or off) to 256: a pixel gets the level nearest to the
// share of it that the outline covers. BlurPX >= 0 is the standard deviation of
// a Gaussian over the pixels before that. SpreadUM >= 0 is the standard
// deviation of the Gaussian by which light and resin spread a dose; Threshold,
// in 0..1, the share of the full dose at which resin sets.
type Light struct {
	PitchXUM   *float64 `json:"pitch_x_um,omitempty"`
	PitchYUM   *float64 `json:"pitch_y_um,omitempty"`
	SpotUM     *float64 `json:"spot_um,omitempty"`
	GreyLevels int64    `json:"grey_levels"`
	BlurPX     float64  `json:"blur_px"`
	SpreadUM   float64  `json:"spread_um"`
	Threshold  float64  `json:"threshold"`
}

// View is the part of the plate that is looked at, in mm.
type View struct {
	XMM     float64 `json:"x_mm"`
	YMM     float64 `json:"y_mm"`
	WidthMM float64 `json:"width_mm"`
	DepthMM float64 `json:"depth_mm"`
}

// Prediction is how far the set outline lies from the drawn one, in µm: the
// mean offset (above 0 is bloated), the ripple (standard deviation of the
// offset along the outline) and the worst; N points were looked at, LostPct of
// them found no set edge near. All nil where nothing was found.
type Prediction struct {
	OffsetUM    *float64    `json:"offset_um"`
	RippleUM    *float64    `json:"ripple_um"`
	WorstUM     *float64    `json:"worst_um"`
	N           int64       `json:"n"`
	LostPct     *float64    `json:"lost_pct"`
	Assumptions []string    `json:"assumptions"`
	Picture     *image.RGBA `json:"-"`
	quantity.Warnings
}

const (
	samples    = 4    // of the dose across a pixel
	subRows    = 8    // of the coverage of a pixel
	spotSteps  = 8    // grid cells across a laser's spot
	spotSigmas = 4    // a spot is stated at 1/e²: four standard deviations
	mostCells  = 1200 // of the grid along a side
	reachCells = 3    // how far from an outline its set edge is looked for
	mostPoints = 4000
)

// Check says what makes no sense about a Light.
func (l Light) Check() error {
	var c quantity.Checks
	switch {
	case l.SpotUM != nil:
		c.Above("spot_um", *l.SpotUM)
	case l.PitchXUM == nil || l.PitchYUM == nil:
		c.Fail("pitch_x_um", "is missing; give both pitches of a masked machine or the spot of a laser")
	default:
		c.Above("pitch_x_um", *l.PitchXUM)
		c.Above("pitch_y_um", *l.PitchYUM)
	}
	if l.GreyLevels < 2 || l.GreyLevels > 256 {
		c.Fail("grey_levels", "is %d; it lies between 2 (no anti-aliasing) and 256", l.GreyLevels)
	}
	c.NotBelow("blur_px", l.BlurPX)
	c.NotBelow("spread_um", l.SpreadUM)
	if l.BlurPX > 8 {
		c.Fail("blur_px", "is %s; up to 8 pixels are computed", say.Figures(l.BlurPX, 6))
	}
	if l.SpreadUM > 500 {
		c.Fail("spread_um", "is %s µm; up to 500 µm are computed", say.Figures(l.SpreadUM, 6))
	}
	if !(l.Threshold > 0 && l.Threshold < 1) {
		c.Fail("threshold", "is %s; it lies between 0 and 1", say.Figures(l.Threshold, 6))
	}
	return c.Err()
}

// cell is the size of the grid that is drawn on, in mm, and the standard
// deviation of the dose in mm.
func (l Light) cell() (x, y, sigma float64) {
	sigma = l.SpreadUM / 1000
	if l.SpotUM != nil {
		return *l.SpotUM / 1000 / spotSteps, *l.SpotUM / 1000 / spotSteps, math.Hypot(sigma, *l.SpotUM/1000/spotSigmas)
	}
	return *l.PitchXUM / 1000, *l.PitchYUM / 1000, sigma
}

// Predict draws outlines as a machine would and finds where the resin sets.
// It is a prediction from stated assumptions, which it returns: nothing of
// peel, shrinkage or stray light is in it. The view may hold up to 1,200 pixels
// (or eighths of a spot) a side.
func Predict(outlines []Polygon, light Light, view View) (Prediction, error) {
	var c quantity.Checks
	c.Above("width_mm", view.WidthMM)
	c.Above("depth_mm", view.DepthMM)
	if err := light.Check(); err != nil {
		return Prediction{}, err
	}
	dx, dy, sigma := light.cell()
	nx, ny := math.Ceil(view.WidthMM/dx), math.Ceil(view.DepthMM/dy)
	if c.Err() == nil && max(nx, ny) > mostCells {
		c.Fail("width_mm", "of %s by %s mm takes %.0f cells a side; look at a smaller part (up to %d)", say.Figure(view.WidthMM), say.Figure(view.DepthMM), max(nx, ny), mostCells)
	}
	if c.Err() != nil {
		return Prediction{}, c.Err()
	}
	// The grid is the machine's own: its lines lie at whole pixels of the plate.
	g := &grid{x: math.Floor(view.XMM/dx) * dx, y: math.Floor(view.YMM/dy) * dy, dx: dx, dy: dy, nx: int(nx) + 1, ny: int(ny) + 1}
	g.v = cover(outlines, *g, subRows)
	if light.SpotUM == nil {
		light.grey(g)
	}
	dose := g.finer(samples)
	dose.blur(sigma/dose.dx, sigma/dose.dy)
	out := Prediction{Assumptions: light.assumptions(), Warnings: quantity.None()}
	out.measure(outlines, dose, light.Threshold)
	out.Picture = draw(outlines, g, dose, light, view)
	return out, nil
}

// grey turns coverage into the levels that pixels get.
func (l Light) grey(g *grid) {
	if l.GreyLevels > 2 && l.BlurPX > 0 {
		g.blur(l.BlurPX, l.BlurPX)
	}
	steps := float64(l.GreyLevels - 1)
	for i, v := range g.v {
		g.v[i] = quantity.Round(v*steps) / steps
	}
}

// measure walks along the outlines and looks for the set edge across them.
func (p *Prediction) measure(outlines []Polygon, dose *grid, threshold float64) {
	var length float64
	for _, o := range outlines {
		for i := range o {
			length += distance(o[i], o[(i+1)%len(o)])
		}
	}
	reach := reachCells * samples * max(dose.dx, dose.dy)
	step := max(length/mostPoints, min(dose.dx, dose.dy))
	var offsets []float64
	lost := 0
	for _, o := range outlines {
		for i, a := range o {
			b := o[(i+1)%len(o)]
			l := distance(a, b)
			n := int(math.Ceil(l / step))
			for k := range n {
				t := (float64(k) + 0.5) / float64(n)
				at := [2]float64{a[0] + t*(b[0]-a[0]), a[1] + t*(b[1]-a[1])}
				out := [2]float64{(b[1] - a[1]) / l, (a[0] - b[0]) / l} // right of the way is outside
				if !dose.holds(at, reach) || !bounds(outlines, at, out, 1e-4) {
					continue
				}
				if offset, found := dose.edge(at, out, reach, threshold); found {
					offsets = append(offsets, 1000*offset)
				} else {
					lost++
				}
			}
		}
	}
	p.N = int64(len(offsets) + lost)
	if p.N == 0 {
		p.Warn("no_outline", "No outline lies in the part that is looked at; move it or choose another layer.")
		return
	}
	p.LostPct = quantity.Ptr(100 * float64(lost) / float64(p.N))
	if len(offsets) == 0 {
		p.Warn("nothing_sets", "Nothing of this would set: every edge is lost.")
		return
	}
	mean, worst, sum := 0.0, 0.0, 0.0
	for _, v := range offsets {
		mean += v / float64(len(offsets))
		if math.Abs(v) > math.Abs(worst) {
			worst = v
		}
	}
	for _, v := range offsets {
		sum += (v - mean) * (v - mean)
	}
	ripple := math.Sqrt(sum / float64(len(offsets)))
	p.OffsetUM, p.RippleUM, p.WorstUM = &mean, &ripple, &worst
}

func distance(a, b [2]float64) float64 { return math.Hypot(b[0]-a[0], b[1]-a[1]) }

// bounds reports an outline that is one of the whole: solid on one side only.
func bounds(outlines []Polygon, at, out [2]float64, step float64) bool {
	return winding(outlines, [2]float64{at[0] - step*out[0], at[1] - step*out[1]}) != 0 &&
		winding(outlines, [2]float64{at[0] + step*out[0], at[1] + step*out[1]}) == 0
}

func winding(outlines []Polygon, p [2]float64) (n int) {
	for _, o := range outlines {
		for i, a := range o {
			b := o[(i+1)%len(o)]
			if (a[1] <= p[1]) == (b[1] <= p[1]) {
				continue
			}
			if x := a[0] + (p[1]-a[1])/(b[1]-a[1])*(b[0]-a[0]); x > p[0] {
				if b[1] > a[1] {
					n++
				} else {
					n--
				}
			}
		}
	}
	return n
}
