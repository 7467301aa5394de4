package photo

import (
	"errors"
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// Line is drawn on a photograph between two clicks, in pixels from its upper left corner.
type Line struct{ FromX, FromY, ToX, ToY float64 }

// LengthPX is how many pixels the line spans.
func (l Line) LengthPX() float64 { return math.Hypot(l.ToX-l.FromX, l.ToY-l.FromY) }

// shifted is the line moved to its right by so many pixels.
func (l Line) shifted(px float64) Line {
	dx, dy := -(l.ToY-l.FromY)/l.LengthPX()*px, (l.ToX-l.FromX)/l.LengthPX()*px
	return Line{l.FromX + dx, l.FromY + dy, l.ToX + dx, l.ToY + dy}
}

// profile is the brightness along the line, one point a pixel; at_um counts pixels here.
func (l Line) profile(g Grey) []Point {
	n := int(l.LengthPX())
	out := make([]Point, 0, n+1)
	for i := range n + 1 {
		share := float64(i) / l.LengthPX()
		out = append(out, Point{AtUM: float64(i), Grey: g.At(l.FromX+share*(l.ToX-l.FromX), l.FromY+share*(l.ToY-l.FromY))})
	}
	return out
}

// OnPhoto is what was measured on a photograph, in its pixels: the size, its standard
// uncertainty, and over how many lines or periods. RipplePX, of an edge, is the standard
// deviation of its place along it, about a straight line; nil for what has none.
type OnPhoto struct {
	SizePX   float64
	UPX      float64
	RipplePX *float64
	N        int64
}

// clickUPX is the standard uncertainty of a click in pixels, as in Scale.
const clickUPX = 1

// LengthBetween is the length of a line between two clicks.
func LengthBetween(l Line) (OnPhoto, error) {
	if !(l.LengthPX() > 0) {
		return OnPhoto{}, errSamePlace
	}
	return OnPhoto{SizePX: l.LengthPX(), UPX: math.Sqrt2 * clickUPX, N: 1}, nil
}

var errSamePlace = errors.New("begins and ends in the same place; click two places apart")

// bandShare is how far to either side of the drawn line an edge is followed, as a share of
// the line's length; fewestLines must show the edge, or nothing is said of it.
const (
	bandShare   = 0.25
	fewestLines = 5
)

// plainContrast is how many times the noise of its levels an edge must stand out by to be
// one: between plain levels of grain alone a profile rises somewhere too.
const plainContrast = 5

// EdgeAcross is the 10–90 % width of an edge by Edge along lines beside the one that was
// drawn across it, a pixel apart: their median, with its standard uncertainty (1.2533·s/√n,
// the large-sample one of a median), and how the edge's place ripples along it.
func EdgeAcross(g Grey, l Line) (OnPhoto, error) {
	if l.LengthPX() < fewestPoints {
		return OnPhoto{}, errors.New("is shorter than ten pixels; draw it across the edge, from the plain on one side to the plain on the other")
	}
	var widths, at, places []float64
	reach := math.Floor(bandShare * l.LengthPX())
	for off := -reach; off <= reach; off++ {
		edge, err := Edge(EdgeInput{Profile: l.shifted(off).profile(g)})
		if err != nil {
			return OnPhoto{}, err
		}
		if edge.EdgeWidthUM != nil && edge.PositionUM != nil && edge.Contrast > plainContrast*edge.Noise {
			widths, at, places = append(widths, *edge.EdgeWidthUM), append(at, off), append(places, *edge.PositionUM)
		}
	}
	if len(widths) < fewestLines {
		return OnPhoto{}, errors.New("crosses no edge that rises from one level to another; draw it across one edge, with plain ground at either end")
	}
	out := OnPhoto{N: int64(len(widths)), SizePX: stats.Median(widths)}
	out.UPX = 1.2533 * math.Sqrt(stats.SampleVar(widths)/float64(len(widths)))
	out.RipplePX = quantity.Ptr(aboutALine(at, places))
	return out, nil
}

// aboutALine is the standard deviation of places about the straight line through them.
func aboutALine(at, places []float64) float64 {
	mx, my := stats.Mean(at), stats.Mean(places)
	var sxx, sxy, rest float64
	for i := range at {
		sxx += (at[i] - mx) * (at[i] - mx)
		sxy += (at[i] - mx) * (places[i] - my)
	}
	for i := range at {
		r := places[i] - my - sxy/sxx*(at[i]-mx)
		rest += r * r
	}
	return math.Sqrt(rest / float64(len(at)-2))
}

// swing is how far above or below the middle of its levels a profile must go to count as
// having been there, as a share of the difference of the levels, so that noise is no line.
const swing = 0.2

// PeriodAlong is the period of lines that the drawn line crosses: the mean distance of the
// places where it rises through the middle of its levels, with the standard error of that
// mean. At least three whole periods must be crossed.
func PeriodAlong(g Grey, l Line) (OnPhoto, error) {
	if l.LengthPX() < fewestPoints {
		return OnPhoto{}, errors.New("is shorter than ten pixels; draw it across several lines")
	}
	profile := beside(g, l)
	sorted := slices.Clone(greys(profile))
	slices.Sort(sorted)
	low, high := sorted[len(sorted)/10], sorted[len(sorted)-1-len(sorted)/10]
	middle, band := (low+high)/2, swing*(high-low)
	var rises []float64
	below := false
	for i := 1; i < len(profile); i++ {
		a, b := profile[i-1].Grey, profile[i].Grey
		below = below || a < middle-band
		if below && a < middle && b >= middle {
			rises = append(rises, profile[i-1].AtUM+(middle-a)/(b-a)*(profile[i].AtUM-profile[i-1].AtUM))
			below = false
		}
	}
	periods := make([]float64, 0, len(rises))
	for i := 1; i < len(rises); i++ {
		periods = append(periods, rises[i]-rises[i-1])
	}
	if len(periods) < 3 || high <= low {
		return OnPhoto{}, errors.New("crosses fewer than three whole periods; draw it across more lines, square to them")
	}
	n := float64(len(periods))
	return OnPhoto{SizePX: stats.Mean(periods), UPX: math.Sqrt(stats.SampleVar(periods) / n), N: int64(len(periods))}, nil
}

// beside is the mean brightness of five lines side by side, so that grain counts less.
func beside(g Grey, l Line) []Point {
	out := l.profile(g)
	for _, off := range []float64{-2, -1, 1, 2} {
		for i, p := range l.shifted(off).profile(g) {
			if i < len(out) {
				out[i].Grey += p.Grey
			}
		}
	}
	for i := range out {
		out[i].Grey /= 5
	}
	return out
}

// KnownLength is a length in mm that a line on a photograph spans, with its standard
// uncertainty.
type KnownLength struct{ MM, UMM, PX float64 }

// SizeOn gives what was measured on a photograph its size in mm by a known length on it, as
// Scale does for a length: the uncertainty of the scale and that of the measuring in
// quadrature. RippleMM is nil where there is none.
type SizeOn struct {
	SizeMM, UMM float64
	RippleMM    *float64
}

// InMM is what was measured, by the scale of its photograph.
func (o OnPhoto) InMM(known KnownLength) (SizeOn, error) {
	scaled, err := Scale(ScaleInput{KnownMM: known.MM, KnownUMM: known.UMM, KnownPX: known.PX, MeasuredPX: o.SizePX})
	if err != nil {
		return SizeOn{}, err
	}
	ofScale := scaled.SizeMM * math.Hypot(known.UMM/known.MM, math.Sqrt2*clickUPX/known.PX)
	out := SizeOn{SizeMM: scaled.SizeMM, UMM: math.Hypot(ofScale, scaled.MMPerPX*o.UPX)}
	if o.RipplePX != nil {
		out.RippleMM = quantity.Ptr(*o.RipplePX * scaled.MMPerPX)
	}
	return out, nil
}
