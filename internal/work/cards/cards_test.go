package cards

import (
	"image"
	"image/color"
	"strings"
	"testing"
)

// No line is wider than its room, and no word is lost: one that is too wide alone is cut.
func TestLinesKeepWithinTheirRoom(t *testing.T) {
	face, err := newTypeface(bold, 30)
	if err != nil {
		t.Fatal(err)
	}
	for _, text := range []string{"", "One", "Failures, all: 2 of 24 specimens over 6 prints (1 % to 27 %) at 50 µm.", strings.Repeat("wide", 60) + " and more", "ł ő ş − ≤ 5 °C"} {
		for _, room := range []float64{40, 200, 900} {
			lines := face.lines(text, room)
			for _, l := range lines {
				if face.width(l) > room {
					t.Errorf("%q is %.0f px wide in %.0f", l, face.width(l), room)
				}
			}
			if got := strings.ReplaceAll(strings.Join(lines, ""), " ", ""); got != strings.ReplaceAll(text, " ", "") {
				t.Errorf("%q became %q", text, lines)
			}
		}
	}
}

// Every sign that figures need is drawn by a type that has it.
func TestEverySignOfFiguresHasAGlyph(t *testing.T) {
	face, err := newTypeface(plain, 20)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range "aZ09µ°±×−–€£²³≤≥“”…łőşčž" {
		at := 0
		for i, f := range face.fonts {
			if glyph, err := f.GlyphIndex(&face.buf, r); err == nil && glyph != 0 && face.face(r) == face.faces[i] {
				at = i + 1
			}
		}
		if at == 0 {
			t.Errorf("%c is drawn by no type", r)
		}
	}
}

// inked is how many px of a part of a picture are not its ground.
func inked(img image.Image, part image.Rectangle) (n int) {
	for y := part.Min.Y; y < part.Max.Y; y++ {
		for x := part.Min.X; x < part.Max.X; x++ {
			if color.RGBAModel.Convert(img.At(x, y)) != cardSheet {
				n++
			}
		}
	}
	return n
}

// A card has the size that it says; however long its sentence, nothing is drawn in its margins, and its sides are.
func TestACardKeepsItsMargins(t *testing.T) {
	one, two, low, high := 0.1, 0.4, 0.02, 0.7
	for name, says := range map[string]string{"short": "It held.", "long": strings.Repeat("A sentence that goes on and on, with 2 of 24 specimens over 6 prints. ", 8)} {
		c := Card{Question: "Which?", Says: says, Grade: "The prints showed it", Scope: "Found on one machine.", Foot: "2026-11-27", Measure: "Failures", Sides: []Side{{"A", "1 of 10", &one, &low, &high}, {"B", "4 of 10", &two, nil, nil}}}
		for shape, size := range Shapes {
			data, err := c.PNG(size)
			if err != nil {
				t.Fatal(err)
			}
			img, kind, err := image.Decode(strings.NewReader(string(data)))
			if err != nil || kind != "png" || img.Bounds().Size() != size {
				t.Fatalf("%s, %s: %v %s %v", name, shape, err, kind, img.Bounds())
			}
			m := int(cardMargin) - 24
			for _, edge := range []image.Rectangle{image.Rect(0, 0, size.X, m), image.Rect(0, 0, m, size.Y), image.Rect(size.X-m, 0, size.X, size.Y), image.Rect(0, size.Y-m, size.X, size.Y)} {
				if n := inked(img, edge); n > 0 {
					t.Errorf("%s, %s: %d px of the margin %v are inked", name, shape, n, edge)
				}
			}
			if n := inked(img, image.Rect(size.X*55/100, 0, size.X-60, size.Y)); n < 500 {
				t.Errorf("%s, %s: the sides are not drawn, %d px", name, shape, n)
			}
		}
	}
}
