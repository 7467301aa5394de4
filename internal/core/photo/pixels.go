package photo

import (
	"image"
	"math"

	"ojime/internal/core/stats"
)

// OnItsSide reports an orientation that swaps the width and the height of a picture.
func OnItsSide(orientation int) bool { return orientation >= 5 && orientation <= 8 }

// Turn turns a picture upright by its orientation (Exif 2.32: 2 to 4 mirrored and turned
// about, 5 to 8 on their sides); 1 gives the picture itself.
func Turn(in *image.RGBA, orientation int) *image.RGBA {
	if orientation <= Upright || orientation > 8 {
		return in
	}
	w, h := in.Rect.Dx(), in.Rect.Dy()
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	if OnItsSide(orientation) {
		out = image.NewRGBA(image.Rect(0, 0, h, w))
	}
	for y := range h {
		for x := range w {
			var tx, ty int
			switch orientation {
			case 2:
				tx, ty = w-1-x, y
			case 3:
				tx, ty = w-1-x, h-1-y
			case 4:
				tx, ty = x, h-1-y
			case 5:
				tx, ty = y, x
			case 6:
				tx, ty = h-1-y, x
			case 7:
				tx, ty = h-1-y, w-1-x
			case 8:
				tx, ty = y, w-1-x
			}
			copy(out.Pix[out.PixOffset(tx, ty):][:4], in.Pix[in.PixOffset(in.Rect.Min.X+x, in.Rect.Min.Y+y):][:4])
		}
	}
	return out
}

// Grey is a picture as brightness alone, 0 to 255, row by row.
type Grey struct {
	Width, Height int
	Values        []float64
}

// GreyOf takes the brightness of a picture (luma of ITU-R BT.601, as JPEG has it).
func GreyOf(in *image.RGBA) Grey {
	g := Grey{Width: in.Rect.Dx(), Height: in.Rect.Dy()}
	g.Values = make([]float64, g.Width*g.Height)
	for y := range g.Height {
		row := in.Pix[in.PixOffset(in.Rect.Min.X, in.Rect.Min.Y+y):]
		for x := range g.Width {
			g.Values[y*g.Width+x] = 0.299*float64(row[4*x]) + 0.587*float64(row[4*x+1]) + 0.114*float64(row[4*x+2])
		}
	}
	return g
}

// At is the brightness between pixels, by the four around; places beyond the picture have
// that of its border. Pixel (0, 0) has its middle at (0.5, 0.5).
func (g Grey) At(x, y float64) float64 {
	x, y = min(max(x-0.5, 0), float64(g.Width-1)), min(max(y-0.5, 0), float64(g.Height-1))
	x0, y0 := int(x), int(y)
	x1, y1 := min(x0+1, g.Width-1), min(y0+1, g.Height-1)
	fx, fy := x-float64(x0), y-float64(y0)
	top := g.Values[y0*g.Width+x0]*(1-fx) + g.Values[y0*g.Width+x1]*fx
	bottom := g.Values[y1*g.Width+x0]*(1-fx) + g.Values[y1*g.Width+x1]*fx
	return top*(1-fy) + bottom*fy
}

// blurReach is half of the width of the filter that a picture is blurred with to be held
// against itself: 9 pixels in all, as in the paper.
const blurReach = 4

// Blur is how blurred a picture is, 0 (as sharp as its pixels) to 1: how little it loses
// when it is blurred once more, along rows and columns, the worse of both (F. Crété, T.
// Dolmière, P. Ladret, M. Nicolas, "The blur effect", SPIE 6492, 2007). Beyond the paper,
// changes that are no larger than the picture's grain are left out, since grain is sharp in
// the most blurred picture. It does not depend on the brightness or the contrast. A picture
// without any detail, or of fewer than 3 by 3 pixels, is 1.
func Blur(g Grey) float64 {
	if g.Width < 3 || g.Height < 3 {
		return 1
	}
	least := grainReach * math.Sqrt2 * grainOf(g)
	across := blurAlong(g.Width, g.Height, least, func(x, y int) float64 { return g.Values[y*g.Width+x] })
	down := blurAlong(g.Height, g.Width, least, func(y, x int) float64 { return g.Values[y*g.Width+x] })
	return max(across, down)
}

// grainReach is how many standard deviations of grain a change must be larger than to be
// detail: one in 500 million of pure grain is, so that a whole picture of it has none.
const grainReach = 6

// grainSamples is about how many places grain is read from.
const grainSamples = 50_000

// grainOf is the standard deviation of the grain: from the middle one of the second
// differences along rows, which plain ground and even slopes have of grain alone (of normal
// grain they have √6 of its standard deviation, and half lie within 0.6745 of theirs).
func grainOf(g Grey) float64 {
	step := 1 + len(g.Values)/grainSamples
	var seconds []float64
	for i := 0; i < len(g.Values); i += step {
		if x := i % g.Width; x > 0 && x < g.Width-1 {
			seconds = append(seconds, math.Abs(g.Values[i-1]-2*g.Values[i]+g.Values[i+1]))
		}
	}
	return stats.Median(seconds) / (0.6745 * math.Sqrt(6))
}

// blurAlong is the blur along lines of n points each, by changes larger than least.
func blurAlong(n, lines int, least float64, at func(i, line int) float64) float64 {
	var had, lost float64
	line, blurred := make([]float64, n), make([]float64, n)
	for l := range lines {
		for i := range n {
			line[i] = at(i, l)
		}
		runningMean(line, blurred)
		for i := 1; i < n; i++ {
			change, after := math.Abs(line[i]-line[i-1]), math.Abs(blurred[i]-blurred[i-1])
			if change > least {
				had += change
				lost += max(0, change-after)
			}
		}
	}
	if had == 0 {
		return 1
	}
	return (had - lost) / had
}

// runningMean is the mean of up to 2·blurReach+1 neighbours.
func runningMean(in, out []float64) {
	sum, from, to := 0.0, 0, 0
	for i := range in {
		for ; to < min(len(in), i+blurReach+1); to++ {
			sum += in[to]
		}
		for ; from < i-blurReach; from++ {
			sum -= in[from]
		}
		out[i] = sum / float64(to-from)
	}
}

// TooBlurred is the blur from which a photograph should be taken again: drawn test charts
// pass it when their edges are wider than about eight pixels of the copy.
const TooBlurred = 0.8
