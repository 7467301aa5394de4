package photographs

import (
	"context"
	"crypto/sha256"
	"fmt"
	"image"
	"image/color"
	"math"
	"slices"
	"strings"

	"golang.org/x/image/draw"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Cells of a picture sheet in pixels: a picture, and its caption below.
const (
	cellWidth   = 620
	cellHeight  = 620
	cellMargin  = 20
	lineHeight  = 26
	textSize    = 19
	mostLines   = 6
	lettersWide = 60 // as many letters stand in a line of a caption
)

// SheetRequest is what a picture sheet shows: photographs in their order, each with the label
// of its side. A blind one shows codes alone, in an order drawn from what is on it.
type SheetRequest struct {
	IDs, Labels []string
	Blind       bool
}

// KeyRow says what stands behind a code of a blind sheet.
type KeyRow struct {
	Code       string `json:"code"`
	Photograph string `json:"photograph"`
	Specimen   string `json:"specimen"`
	Label      string `json:"label"`
}

// cell is a picture of a sheet with its caption.
type cell struct {
	file    string // of its copy
	picture image.Image
	mmPerPX *float64 // of the picture
	caption []string
	key     KeyRow
	order   [sha256.Size]byte
}

// Sheet draws photographs beside each other with their labels burned in: to one scale where
// each has its scale on record, else each as large as it fits, which the sheet says. Nothing
// is done to them but turning and resizing.
func (w *Tasks) Sheet(ctx context.Context, in SheetRequest) ([]byte, error) {
	all, scaled, err := w.cells(ctx, in)
	if err != nil {
		return nil, err
	}
	return task.Heavily(ctx, w.Base, nil, func() ([]byte, error) {
		for i := range all {
			data, err := w.Store.Photographs().Read(all[i].file)
			if err != nil {
				return nil, err
			}
			if _, all[i].picture, err = decode(data); err != nil {
				return nil, err
			}
		}
		sheet, err := draught(all, scaled)
		if err != nil {
			return nil, err
		}
		return kit.PNG(sheet)
	})
}

// Key says what stands behind the codes of a blind sheet, in its order.
func (w *Tasks) Key(ctx context.Context, in SheetRequest) ([]KeyRow, error) {
	in.Blind = true
	all, _, err := w.cells(ctx, in)
	out := make([]KeyRow, len(all))
	for i, c := range all {
		out[i] = c.key
	}
	return out, err
}

// cells are the pictures of a sheet in the order in which they stand, still without their
// pixels.
func (w *Tasks) cells(ctx context.Context, in SheetRequest) ([]cell, bool, error) {
	if len(in.Labels) != 0 && len(in.Labels) != len(in.IDs) {
		return nil, false, quantity.Errorf("label", "is given %d times for %d photographs", len(in.Labels), len(in.IDs))
	}
	side, err := w.SideBySide(ctx, in.IDs)
	if err != nil {
		return nil, false, err
	}
	out := make([]cell, len(side.Photographs))
	for i, p := range side.Photographs {
		c := &out[i]
		if p.ErasedMS != nil {
			return nil, false, quantity.Errorf("id", "names %s, whose files were erased; leave it out", p.Code)
		}
		c.file, c.mmPerPX, c.key = p.CopySHA256, p.CopyMMPerPX, KeyRow{Photograph: p.Code, Specimen: p.SpecimenCode}
		if len(in.Labels) > 0 {
			c.key.Label = in.Labels[i]
		}
		c.order = sha256.Sum256([]byte("blind " + p.ID))
		heading := strings.TrimSpace(c.key.Label + "  " + p.SpecimenCode + ", " + p.Code)
		words := []string{}
		for _, f := range p.Differs {
			words = append(words, f.Name+": "+f.Value)
		}
		c.caption = append([]string{heading}, wrapped(strings.Join(words, "; "))...)
	}
	if in.Blind {
		slices.SortFunc(out, func(a, b cell) int { return slices.Compare(a.order[:], b.order[:]) })
		taken := map[string]bool{}
		for i := range out {
			out[i].key.Code = freeCode(out[i].order, taken)
			out[i].caption = []string{out[i].key.Code}
		}
	}
	return out, side.Scaled, nil
}

// freeCode is the first code of a picture that no other picture of its sheet has.
func freeCode(order [sha256.Size]byte, taken map[string]bool) string {
	for {
		code := blindCode(order)
		if !taken[code] {
			taken[code] = true
			return code
		}
		order = sha256.Sum256(order[:])
	}
}

// blindCode is two letters and a digit, without those that are taken for each other.
func blindCode(sum [sha256.Size]byte) string {
	const letters = "ABCDEFGHKLMNPRTUVWXY"
	return fmt.Sprintf("%c%c%d", letters[int(sum[31])%len(letters)], letters[int(sum[30])%len(letters)], 2+sum[29]%8)
}

// wrapped breaks a caption into lines.
func wrapped(text string) []string {
	var lines []string
	line := ""
	for _, word := range strings.Fields(text) {
		if len([]rune(line))+len([]rune(word)) >= lettersWide && line != "" {
			lines, line = append(lines, line), ""
		}
		line = strings.TrimSpace(line + " " + word)
	}
	if line != "" {
		lines = append(lines, line)
	}
	if len(lines) > mostLines {
		lines = append(lines[:mostLines-1], lines[mostLines-1]+" …")
	}
	return lines
}

var ink = color.RGBA{0x1c, 0x22, 0x26, 0xff}

// draught draws the sheet: up to three pictures in a row.
func draught(all []cell, scaled bool) (*image.RGBA, error) {
	bold, err := face(gobold.TTF)
	if err != nil {
		return nil, err
	}
	regular, err := face(goregular.TTF)
	if err != nil {
		return nil, err
	}
	captions := 0
	for _, c := range all {
		captions = max(captions, len(c.caption))
	}
	columns := min(3, len(all))
	rows := (len(all) + columns - 1) / columns
	step := image.Pt(cellWidth+cellMargin, cellHeight+captions*lineHeight+2*cellMargin)
	out := image.NewRGBA(image.Rect(0, 0, columns*step.X+cellMargin, rows*step.Y+3*lineHeight))
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	mmPerPX := commonScale(all, scaled)
	for i, c := range all {
		at := image.Pt(cellMargin+i%columns*step.X, cellMargin+i/columns*step.Y)
		frame := image.Rectangle{at, at.Add(image.Pt(cellWidth, cellHeight))}
		place(out, frame, c, mmPerPX)
		for j, line := range c.caption {
			f := regular
			if j == 0 {
				f = bold
			}
			write(out, f, line, at.Add(image.Pt(0, cellHeight+(j+1)*lineHeight)))
		}
	}
	foot := "Each picture is as large as it fits: their scales are not on record, so sizes do not compare."
	if scaled {
		foot = "All pictures have one scale."
		bar(out, regular, image.Pt(cellMargin, rows*step.Y+lineHeight/2), mmPerPX)
	}
	write(out, regular, foot+" Nothing was done to them but turning and resizing.", image.Pt(cellMargin, out.Rect.Dy()-cellMargin/2))
	return out, nil
}

// commonScale is how many mm a pixel of the sheet spans, so that the largest view fits; 0
// where each picture has its own size.
func commonScale(all []cell, scaled bool) float64 {
	most := 0.0
	for _, c := range all {
		if !scaled {
			return 0
		}
		b := c.picture.Bounds()
		most = max(most, *c.mmPerPX*max(float64(b.Dx())/cellWidth, float64(b.Dy())/cellHeight))
	}
	return most
}

// place draws a picture in the middle of its frame.
func place(out *image.RGBA, frame image.Rectangle, c cell, mmPerPX float64) {
	b := c.picture.Bounds()
	share := min(float64(cellWidth)/float64(b.Dx()), float64(cellHeight)/float64(b.Dy()))
	if mmPerPX > 0 {
		share = *c.mmPerPX / mmPerPX
	}
	w, h := max(1, int(share*float64(b.Dx()))), max(1, int(share*float64(b.Dy())))
	corner := frame.Min.Add(image.Pt((cellWidth-w)/2, (cellHeight-h)/2))
	draw.BiLinear.Scale(out, image.Rectangle{corner, corner.Add(image.Pt(w, h))}, c.picture, b, draw.Src, nil)
}

// bar draws a scale bar of a round length.
func bar(out *image.RGBA, f font.Face, at image.Point, mmPerPX float64) {
	mm := math.Pow(10, math.Floor(math.Log10(cellWidth/2*mmPerPX)))
	for _, times := range []float64{5, 2} {
		if times*mm <= cellWidth/2*mmPerPX {
			mm *= times
			break
		}
	}
	end := at.Add(image.Pt(int(mm/mmPerPX), 5))
	draw.Draw(out, image.Rectangle{at, end}, image.NewUniform(ink), image.Point{}, draw.Src)
	write(out, f, say.Figures(mm, 3)+" mm", image.Pt(end.X+10, at.Y+8))
}

func face(ttf []byte) (font.Face, error) {
	parsed, err := opentype.Parse(ttf)
	if err != nil {
		return nil, fmt.Errorf("read the font of picture sheets: %w", err)
	}
	return opentype.NewFace(parsed, &opentype.FaceOptions{Size: textSize, DPI: 72})
}

func write(out *image.RGBA, f font.Face, text string, at image.Point) {
	d := font.Drawer{Dst: out, Src: image.NewUniform(ink), Face: f, Dot: fixed.P(at.X, at.Y)}
	d.DrawString(text)
}
