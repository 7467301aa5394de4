package coupon

import (
	"fmt"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// A bar is 80 mm long and 10 mm wide, as ISO 178 takes it; a plaque is a square of 30 mm.
const (
	barLongMM, barWideMM = 80.0, 10.0
	plaqueMM             = 30.0
	leastAloneMM         = 0.5
	mostAloneMM          = 6.0
)

// LineWidthsMM are those of the line scale that is read through a plaque: each stands there
// five times, with gaps of its own width.
var LineWidthsMM = []float64{0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.7, 1}

// alone makes the bar or the plaque; others says that something else was to be on it.
func alone(p Params, others bool) (Coupon, error) {
	var c quantity.Checks
	for name, mm := range map[string]float64{"bar_mm": p.BarMM, "plaque_mm": p.PlaqueMM} {
		if mm != 0 && !(mm >= leastAloneMM && mm <= mostAloneMM) {
			c.Fail(name, "is %s mm; between %s and %s mm it can be bent or looked through", say.Figures(mm, 6), say.Figures(leastAloneMM, 3), say.Figures(mostAloneMM, 3))
		}
	}
	switch {
	case p.BarMM > 0 && p.PlaqueMM > 0:
		c.Fail("plaque_mm", "is given beside a bar; make them one after the other")
	case others:
		c.Fail("bar_mm", "or a plaque is a piece of its own; leave the ladders and blocks out")
	}
	if c.Err() != nil {
		return Coupon{}, c.Err()
	}
	var b builder
	if p.PlaqueMM > 0 {
		b.prism(loop{{0, 0}, {plaqueMM, 0}, {plaqueMM, plaqueMM - cutMM}, {plaqueMM - cutMM, plaqueMM}, {0, plaqueMM}}, 0, p.PlaqueMM)
		b.dimension("Thickness", "z", "outer", p.PlaqueMM, "in the middle")
		b.ladder("gaps", "lines", "Lines told apart through it", LineWidthsMM, "laid on the line scale, under a lamp")
		return Coupon{Triangles: b.triangles, Features: b.features, SizeMM: [3]float64{plaqueMM, plaqueMM, p.PlaqueMM}}, nil
	}
	b.prism(rectangle(0, 0, barLongMM, barWideMM), 0, p.BarMM)
	b.dimension("Width", "y", "outer", barWideMM, "in the middle of its length")
	b.dimension("Thickness", "z", "outer", p.BarMM, "in the middle of its length")
	return Coupon{Triangles: b.triangles, Features: b.features, SizeMM: [3]float64{barLongMM, barWideMM, p.BarMM}}, nil
}

// LineScale is the sheet that plaques are laid on, as an SVG of A5 in true millimetres: five
// lines of each width, and a length of 100 mm that shows whether it was printed at its size.
func LineScale() string {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="148mm" height="105mm" viewBox="0 0 148 105" font-family="sans-serif" font-size="3.2">` + "\n")
	b.WriteString(`<rect width="148" height="105" fill="#fff"/><text x="10" y="10">Line scale for plaques. Print it at 100 %, without fitting to the page; the bar below has to measure 100 mm.</text>` + "\n")
	x := 10.0
	for _, w := range LineWidthsMM {
		for i := range 5 {
			fmt.Fprintf(&b, `<rect x="%s" y="20" width="%s" height="50"/>`, say.Figures(x+2*float64(i)*w, 6), say.Figures(w, 4))
		}
		fmt.Fprintf(&b, `<text x="%s" y="76">%s</text>`+"\n", say.Figures(x, 6), say.Figures(w, 4))
		x += max(9*w, 6) + 6
	}
	b.WriteString(`<text x="10" y="82">width of line and of gap, mm</text><path d="M10 92V98M10 95H110M110 92V98" stroke="#000" stroke-width=".3" fill="none"/><text x="54" y="93">100 mm</text>` + "\n</svg>\n")
	return b.String()
}
