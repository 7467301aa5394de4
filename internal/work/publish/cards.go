package publish

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math"
	"slices"
	"strings"

	"golang.org/x/image/vector"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/finding"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/findings"
	"ojime/internal/work/reviews"
)

// Shapes of cards, in px.
var shapes = map[string]image.Point{"wide": {X: 1200, Y: 675}, "tall": {X: 1080, Y: 1350}}

// cardSide is a side on a card: what it is called, what it shows, and where that lies.
type cardSide struct {
	Name, Figure string
	Value        *float64
	Low, High    *float64
}

// card is a finding as a picture: its sentence, its grade, the sides it is about, and where it holds.
type card struct {
	Question, Says, Grade, Measure, Scope, Foot string
	Sides                                       []cardSide
}

// Card is a finding as a PNG picture, wide (1200 × 675 px) or tall (1080 × 1350 px).
func (w *Tasks) Card(ctx context.Context, findingID, shape string) (out []byte, err error) {
	size, known := shapes[shape]
	if !known {
		return nil, fmt.Errorf("card %q: %w", shape, bench.ErrNotFound)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		f, err := t.Finding(findingID)
		if err != nil {
			return err
		}
		of, err := w.sheetOf(t, f.ReviewID)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(of.Findings, func(p findings.PickedFinding) bool { return p.Finding.ID == findingID })
		if at < 0 {
			return fmt.Errorf("finding %s was taken back: %w", f.Code, bench.ErrNotFound)
		}
		out, err = draftCard(of.Findings[at], of, w.NowMS()).png(size)
		return err
	})
	return out, err
}

func draftCard(f findings.PickedFinding, of sheet, nowMS int64) card {
	out := card{Question: of.Review.Question, Says: f.Says, Grade: finding.Means(f.Grade()), Foot: say.Day(nowMS)}
	if f.Now == nil {
		if f.Finding.Own() {
			out.Scope = "Seen by the reviewer, and rests on no figure."
		}
		return out
	}
	out.Scope = "Found on " + f.Now.Scope
	if len(f.Now.Disclosure) > 0 {
		out.Foot = strings.Join(f.Now.Disclosure, "; ") + ". " + out.Foot
	}
	for _, r := range f.Now.Rests {
		out.Sides = append(out.Sides, cardSide{Name: r.Name, Figure: r.Figure})
	}
	if c := contestOf(f.Finding, of); c != nil && len(f.Finding.Sides) == len(out.Sides) {
		out.place(f.Finding, *c)
	}
	return out
}

// contestOf is the comparison that a finding is a row of; nil where it is none.
func contestOf(f bench.Finding, of sheet) *reviews.Contest {
	if f.Measure == "" {
		return nil
	}
	if f.PieceID == "" {
		return of.together
	}
	for i, c := range of.contested {
		if c.PieceID == f.PieceID {
			return &of.contested[i]
		}
	}
	return nil
}

// place puts the sides of a finding where their values lie.
func (c *card) place(f bench.Finding, of reviews.Contest) {
	for _, result := range of.Results {
		for _, m := range result.Measures {
			if m.Key != f.Measure {
				continue
			}
			c.Measure = m.Label
			for i, ref := range f.Sides {
				at := slices.IndexFunc(of.SetUps, func(s reviews.SetUp) bool { return s.Ref() == ref })
				if at >= 0 && at < len(m.Sides) {
					c.Sides[i].at(m.Sides[at])
				}
			}
			return
		}
	}
}

func (s *cardSide) at(e contest.Estimate) {
	if s.Value = e.Value; e.Value != nil && e.CI != nil {
		s.Low, s.High = &e.CI[0], &e.CI[1]
	}
}

// Colours of a card: those of the light page.
var (
	cardSheet = color.RGBA{0xef, 0xf3, 0xf3, 0xff}
	cardInk   = color.RGBA{0x16, 0x19, 0x1a, 0xff}
	cardSoft  = color.RGBA{0x4a, 0x53, 0x55, 0xff}
	cardLine  = color.RGBA{0xb9, 0xc3, 0xc4, 0xff}
	cardAct   = color.RGBA{0xa3, 0x41, 0x00, 0xff}
)

const cardMargin = 64.0

// png draws a card; the sentence is as large as its room allows.
func (c card) png(size image.Point) ([]byte, error) {
	p := painter{img: image.NewRGBA(image.Rectangle{Max: size})}
	draw.Draw(p.img, p.img.Bounds(), image.NewUniform(cardSheet), image.Point{}, draw.Src)
	width, y := float64(size.X)-2*cardMargin, cardMargin+10
	y = p.text(plain, 26, cardMargin, y, width, 2, c.Question, cardSoft)
	y += 18
	p.circle(cardMargin+11, y+4, 11, cardAct)
	y = p.text(bold, 28, cardMargin+36, y+14, width-36, 1, c.Grade, cardAct)
	bottom := float64(size.Y) - cardMargin
	foot := p.height(20, width, mostLines, c.Foot) + p.height(24, width, mostLines, c.Scope) + 16
	plot := 0.0
	if len(c.Sides) > 0 {
		plot = 34 + sideHeight*float64(len(c.Sides))
	}
	room := bottom - foot - plot - 16 - y
	px := float64(size.Y) / 14
	for ; px > leastPX; px-- {
		if p.height(px, width, math.MaxInt, c.Says) <= room {
			break
		}
	}
	p.text(bold, px, cardMargin, y+px, width, int(room/(px*lineHeight)), c.Says, cardInk)
	if plot > 0 {
		p.sides(c, cardMargin, bottom-foot-plot, width)
	}
	y = bottom - foot + 30
	p.rule(cardMargin, y-24, width)
	y = p.text(plain, 24, cardMargin, y+8, width, mostLines, c.Scope, cardInk)
	p.text(plain, 20, cardMargin, y, width, mostLines, c.Foot, cardSoft)
	if p.err != nil {
		return nil, p.err
	}
	var b bytes.Buffer
	err := png.Encode(&b, p.img)
	return b.Bytes(), err
}

const (
	lineHeight = 1.28
	sideHeight = 62.0
	leastPX    = 17.0 // still read on a phone
	mostLines  = 9
)

// painter draws on a card and keeps the first error.
type painter struct {
	img *image.RGBA
	err error
}

func (p *painter) face(weight int, px float64) *typeface {
	t, err := newTypeface(weight, px)
	if err != nil && p.err == nil {
		p.err = err
	}
	return t
}

// height is that of a text in bold, of so many lines at most.
func (p *painter) height(px, width float64, most int, text string) float64 {
	t := p.face(bold, px)
	if t == nil || text == "" {
		return 0
	}
	return float64(min(most, len(t.lines(text, width)))) * px * lineHeight
}

// text writes a text in so many lines at most, what does not fit cut with an ellipsis, and gives where the next begins.
func (p *painter) text(weight int, px, x, y, width float64, most int, text string, ink color.Color) float64 {
	t := p.face(weight, px)
	if t == nil || text == "" {
		return y
	}
	lines := t.lines(text, width)
	if most < 1 {
		most = 1
	}
	if len(lines) > most {
		lines = lines[:most]
		last := []rune(lines[most-1])
		for len(last) > 0 && t.width(string(last)+"…") > width {
			last = last[:len(last)-1]
		}
		lines[most-1] = strings.TrimSpace(string(last)) + "…"
	}
	for _, line := range lines {
		t.draw(p.img, x, y, line, ink)
		y += px * lineHeight
	}
	return y
}

func (p *painter) rule(x, y, width float64) { p.box(x, y, width, 2, cardLine) }

func (p *painter) box(x, y, width, height float64, ink color.Color) {
	draw.Draw(p.img, image.Rect(int(x), int(y), int(x+width), int(y+height)), image.NewUniform(ink), image.Point{}, draw.Over)
}

// circle is drawn of four arcs.
func (p *painter) circle(x, y, r float64, ink color.Color) {
	const k = 0.5523 // the handle of a quarter circle
	z := vector.NewRasterizer(p.img.Rect.Dx(), p.img.Rect.Dy())
	f := func(v float64) float32 { return float32(v) }
	z.MoveTo(f(x+r), f(y))
	z.CubeTo(f(x+r), f(y+k*r), f(x+k*r), f(y+r), f(x), f(y+r))
	z.CubeTo(f(x-k*r), f(y+r), f(x-r), f(y+k*r), f(x-r), f(y))
	z.CubeTo(f(x-r), f(y-k*r), f(x-k*r), f(y-r), f(x), f(y-r))
	z.CubeTo(f(x+k*r), f(y-r), f(x+r), f(y-k*r), f(x+r), f(y))
	z.ClosePath()
	z.Draw(p.img, p.img.Bounds(), image.NewUniform(ink), image.Point{})
}

// sides draws each side of a finding: its name, its figure, and where its value and interval lie beside the others'.
func (p *painter) sides(c card, x, y, width float64) {
	low, high := math.Inf(1), math.Inf(-1)
	for _, s := range c.Sides {
		for _, v := range []*float64{s.Value, s.Low, s.High} {
			if v != nil {
				low, high = min(low, *v), max(high, *v)
			}
		}
	}
	left, right := x+0.52*width, x+width-12
	at := func(v float64) float64 { return left + (v-low)/(high-low)*(right-left) }
	drawn := high > low
	names := 0.5 * width
	if !drawn {
		names = width
	}
	if drawn {
		c.Measure += ": value and interval at 95 %, over prints"
	}
	y = p.text(plain, 22, x, y+14, width, 1, c.Measure, cardSoft)
	for _, s := range c.Sides {
		p.text(bold, 24, x, y+10, names, 1, s.Name, cardInk)
		p.text(plain, 22, x, y+38, names, 1, s.Figure, cardSoft)
		if drawn && s.Value != nil {
			p.rule(left, y+16, right-left)
			if s.Low != nil {
				p.box(at(*s.Low), y+15, max(2, at(*s.High)-at(*s.Low)), 5, cardInk)
			}
			p.circle(at(*s.Value), y+17, 10, cardInk)
		}
		y += sideHeight
	}
}
