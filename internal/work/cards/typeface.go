package cards

import (
	"embed"
	"fmt"
	"image"
	"image/color"
	"strings"
	"sync"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

//go:embed fonts/*.ttf
var cardFonts embed.FS

// weights are the two weights of our type, each with the file for the letters that the first lacks, and last a type that has
// the signs that both lack, such as µ.
var weights = sync.OnceValues(func() (out [2][]*sfnt.Font, err error) {
	last := [2][]byte{goregular.TTF, gobold.TTF}
	for i, weight := range []string{"400", "700"} {
		for _, file := range []string{"fonts/next-" + weight + ".ttf", "fonts/next-ext-" + weight + ".ttf"} {
			data, err := cardFonts.ReadFile(file)
			if err != nil {
				return out, err
			}
			f, err := opentype.Parse(data)
			if err != nil {
				return out, fmt.Errorf("read the type %s: %w", file, err)
			}
			out[i] = append(out[i], f)
		}
		f, err := opentype.Parse(last[i])
		if err != nil {
			return out, fmt.Errorf("read the last type: %w", err)
		}
		out[i] = append(out[i], f)
	}
	return out, nil
})

// typeface draws text of one weight and size; a letter that the first font lacks is taken from the next.
type typeface struct {
	fonts []*sfnt.Font
	faces []font.Face
	buf   sfnt.Buffer
	px    float64
}

const (
	plain = 0
	bold  = 1
)

func newTypeface(weight int, px float64) (*typeface, error) {
	fonts, err := weights()
	if err != nil {
		return nil, err
	}
	t := &typeface{fonts: fonts[weight], px: px}
	for _, f := range t.fonts {
		face, err := opentype.NewFace(f, &opentype.FaceOptions{Size: px, DPI: 72, Hinting: font.HintingNone})
		if err != nil {
			return nil, err
		}
		t.faces = append(t.faces, face)
	}
	return t, nil
}

// face is that of the first font that has a letter.
func (t *typeface) face(r rune) font.Face {
	for i, f := range t.fonts {
		if at, err := f.GlyphIndex(&t.buf, r); err == nil && at != 0 {
			return t.faces[i]
		}
	}
	return t.faces[0]
}

// width is that of a line in px.
func (t *typeface) width(text string) float64 {
	var out fixed.Int26_6
	for _, r := range text {
		if advance, ok := t.face(r).GlyphAdvance(r); ok {
			out += advance
		}
	}
	return float64(out) / 64
}

// lines breaks a text so that no line is wider than so many px; a word that is wider alone is cut.
func (t *typeface) lines(text string, width float64) (out []string) {
	line := ""
	for _, word := range strings.Fields(text) {
		for t.width(word) > width {
			at := len([]rune(word)) - 1
			for at > 1 && t.width(string([]rune(word)[:at])) > width {
				at--
			}
			if line != "" {
				out, line = append(out, line), ""
			}
			out, word = append(out, string([]rune(word)[:at])), string([]rune(word)[at:])
			if at <= 1 && t.width(word) > width && len([]rune(word)) <= 1 {
				break
			}
		}
		switch next := strings.TrimSpace(line + " " + word); {
		case t.width(next) <= width:
			line = next
		default:
			out, line = append(out, line), word
		}
	}
	if line != "" {
		out = append(out, line)
	}
	return out
}

// draw writes a line with its foot at y.
func (t *typeface) draw(into *image.RGBA, x, y float64, text string, ink color.Color) {
	dot := fixed.Point26_6{X: fixed.Int26_6(x * 64), Y: fixed.Int26_6(y * 64)}
	for _, r := range text {
		d := font.Drawer{Dst: into, Src: image.NewUniform(ink), Face: t.face(r), Dot: dot}
		d.DrawString(string(r))
		dot = d.Dot
	}
}
