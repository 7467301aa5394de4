package publish

import (
	"fmt"
	"html"
	"math"
	"strings"

	"ojime/internal/core/contest"
)

// Sizes of a plot of sides, in its own units.
const (
	plotWidth  = 760
	plotLeft   = 44
	plotRight  = 500
	plotRow    = 20
	plotTitle  = 26
	mostPlots  = 14
	letterSize = 12
)

// dotPlot draws the measures of a comparison that tell sides apart, each on a scale of its own: a dot for the value of a side, a
// line for its interval, and both in figures beside. Measures that every side shows alike have no row.
func dotPlot(c Contest) string {
	first := c.Results[0]
	var rows []contest.Measure
	for _, m := range first.Measures {
		if known(m) > 1 && !m.Alike && len(rows) < mostPlots {
			rows = append(rows, m)
		}
	}
	if len(rows) == 0 {
		return ""
	}
	height := 8
	for _, m := range rows {
		height += plotTitle + plotRow*known(m)
	}
	var b strings.Builder
	title := "Sides of " + c.Piece + " with their intervals"
	fmt.Fprintf(&b, "<figure><div class=\"wide\" tabindex=\"0\" role=\"group\" aria-label=\"%s\"><svg viewBox=\"0 0 %d %d\" role=\"img\" aria-label=\"%s; the table below has the same figures\">\n", html.EscapeString(title), plotWidth, height, html.EscapeString(title))
	y := 0
	for _, m := range rows {
		y += plotTitle
		fmt.Fprintf(&b, "<text x=\"0\" y=\"%d\" font-size=\"13\" font-weight=\"650\" fill=\"currentColor\">%s</text>\n", y-8, html.EscapeString(m.Label))
		low, high := span(m)
		at := func(v float64) float64 { return plotLeft + (v-low)/(high-low)*(plotRight-plotLeft) }
		for i, e := range m.Sides {
			if e.Value == nil {
				continue
			}
			mid := float64(y) + plotRow/2
			fmt.Fprintf(&b, "<text x=\"14\" y=\"%.0f\" font-size=\"%d\" fill=\"currentColor\">%s</text><line x1=\"%d\" x2=\"%d\" y1=\"%.1f\" y2=\"%.1f\" stroke=\"var(--line)\"/>", mid+4, letterSize, first.Sides[i].Letter, plotLeft, plotRight, mid, mid)
			if e.CI != nil {
				fmt.Fprintf(&b, "<line x1=\"%.1f\" x2=\"%.1f\" y1=\"%.1f\" y2=\"%.1f\" stroke=\"currentColor\" stroke-width=\"2\"/>", at(e.CI[0]), at(e.CI[1]), mid, mid)
			}
			fmt.Fprintf(&b, "<circle cx=\"%.1f\" cy=\"%.1f\" r=\"4.5\" fill=\"currentColor\"/><text class=\"figure\" x=\"%d\" y=\"%.0f\" font-size=\"%d\" fill=\"currentColor\">%s</text>\n", at(*e.Value), mid, plotRight+14, mid+4, letterSize, html.EscapeString(m.Told(e)))
			y += plotRow
		}
	}
	fmt.Fprintf(&b, "</svg></div><figcaption>A dot is what a side shows, the line its interval at 95 %%, over prints; each row on a scale of its own. %s</figcaption></figure>\n", html.EscapeString(sidesIn(c)))
	return b.String()
}

// sidesIn names the sides by their letters.
func sidesIn(c Contest) string {
	var out []string
	for _, s := range c.Results[0].Sides {
		out = append(out, s.Letter+": "+s.Label)
	}
	return strings.Join(out, "; ") + "."
}

func known(m contest.Measure) (n int) {
	for _, e := range m.Sides {
		if e.Value != nil {
			n++
		}
	}
	return n
}

// span is from the least to the greatest that is drawn of a measure, never nothing wide.
func span(m contest.Measure) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, e := range m.Sides {
		if e.Value == nil {
			continue
		}
		low, high = min(low, *e.Value), max(high, *e.Value)
		if e.CI != nil {
			low, high = min(low, e.CI[0]), max(high, e.CI[1])
		}
	}
	if !(high > low) {
		return low - 1, high + 1
	}
	return low, high
}
