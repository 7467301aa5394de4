// Package cards draws findings as pictures: a sentence, its grade, its sides with their intervals, and where it holds.
package cards

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math"
	"strings"

	"golang.org/x/image/vector"
)

// Shapes of cards, in px.
var Shapes = map[string]image.Point{"wide": {X: 1200, Y: 675}, "tall": {X: 1080, Y: 1350}}

// Side is a side on a card: what it is called, what it shows, and where that lies; nil what is not known.
type Side struct {
	Name, Figure string
	Value        *float64
	Low, High    *float64
}

// Card is a finding as a picture: its sentence, its grade in words, the measure and the sides that it is about, where it holds,
// and who has an interest.
type Card struct {
	Question, Says, Grade, Measure, Scope, Foot string
	Sides                                       []Side
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

// PNG draws a card; the sentence is as large as its room allows.
func (c Card) PNG(size image.Point) ([]byte, error) {
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
func (p *painter) sides(c Card, x, y, width float64) {
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
