package demo

import (
	"archive/zip"
	"bytes"
	"cmp"
	"fmt"
	"image"
	"image/png"
	"reflect"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/work/sliced"
)

// laySliced lays a sliced file beside the print that was made last: two copies of a piece, cut as
// they lie for the machine's pixels, with the settings as the program that sliced them had them.
func (d *scene) laySliced(pieceName string) error {
	m, p := d.last.Machine, d.last.Profile
	_, data, err := d.work.Kit.PieceMesh(d.ctx, d.pieces[pieceName].Piece.ID, "stl", 0)
	if err != nil {
		return err
	}
	solid, err := mesh.Read(data)
	if err != nil {
		return err
	}
	var out, drawn bytes.Buffer
	z := zip.NewWriter(&out)
	var before mesh.Outline
	for layer, layers := int64(0), int64(1); layer < layers; layer++ {
		outline, err := mesh.OutlineOf(solid, p.LayerUM, layer)
		if err != nil {
			return err
		}
		layers = outline.Layers
		if !reflect.DeepEqual(outline.Loops, before.Loops) { // a wall that rises straight is drawn once
			drawn.Reset()
			if err := (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&drawn, lit(outline, m)); err != nil {
				return err
			}
			before = outline
		}
		w, err := z.CreateHeader(&zip.FileHeader{Name: fmt.Sprintf("layers/%04d.png", layer+1), Method: zip.Store})
		if err != nil {
			return err
		}
		if _, err := w.Write(drawn.Bytes()); err != nil {
			return err
		}
	}
	w, err := z.Create("settings.txt")
	if err != nil {
		return err
	}
	if _, err := fmt.Fprintf(w, "layer height = %g mm\nexposure = %g s\nbottom layers = %d\nbottom exposure = %g s\nrest after exposure = 0.8 s\n", p.LayerUM/1000, *p.ExposureS, *p.BottomLayers, *p.BottomExposureS); err != nil {
		return err
	}
	if err := z.Close(); err != nil {
		return err
	}
	file := bytes.NewReader(out.Bytes())
	_, err = d.work.Sliced.SliceForRun(d.ctx, d.last.Run.ID, sliced.SlicedUpload{Name: "two coupons.zip", Bytes: file.Size(), File: file}, nil)
	return err
}

// apartMM is how far the second copy lies from the first.
const apartMM = 60

// lit is a layer of two copies on a machine's panel: a pixel is lit where its middle lies within
// the outline.
func lit(of mesh.Outline, m bench.Machine) image.Image {
	out := image.NewGray(image.Rect(0, 0, int(*m.PxX), int(*m.PxY)))
	px, py := m.WidthMM/float64(*m.PxX), m.DepthMM/float64(*m.PxY)
	for row := range out.Rect.Dy() {
		winding := 0
		crossings := crossed(of.Loops, (float64(row)+0.5)*py-m.DepthMM/2)
		for i, c := range crossings {
			if winding += c.turn; winding == 0 || i+1 == len(crossings) {
				continue
			}
			for _, shift := range []float64{-apartMM / 2, apartMM / 2} {
				from, to := c.x+shift+m.WidthMM/2, crossings[i+1].x+shift+m.WidthMM/2
				for x := max(0, int(from/px+0.5)); x < min(out.Rect.Dx(), int(to/px+0.5)); x++ {
					out.Pix[row*out.Stride+x] = 255
				}
			}
		}
	}
	return out
}

// crossing is where a line along x crosses a loop, and which way that loop runs there.
type crossing struct {
	x    float64
	turn int
}

// crossed are the places at which a line along x crosses the loops, in order.
func crossed(loops []mesh.Loop, y float64) (at []crossing) {
	for _, loop := range loops {
		for i, b := range loop {
			a := loop[(i+len(loop)-1)%len(loop)]
			if (a[1] > y) == (b[1] > y) {
				continue
			}
			c := crossing{a[0] + (b[0]-a[0])*(y-a[1])/(b[1]-a[1]), 1}
			if b[1] > y {
				c.turn = -1
			}
			at = append(at, c)
		}
	}
	slices.SortFunc(at, func(a, b crossing) int { return cmp.Compare(a.x, b.x) })
	return at
}
