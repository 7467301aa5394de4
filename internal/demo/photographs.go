package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/work/photographs"
)

// The demo's photographs are drawn from its own meshes: the piece stands before a cloth with
// a rule beside it. What a machine prints shows as steps of its pixels and as blur, in mm;
// the camera adds grain. No picture is taken from elsewhere.
const (
	photoPX      = 720 // the side of a photograph
	grain        = 2.5 // of 255
	closeupTimes = 9
	ruleMM       = 10.0
)

// looking is how a print looks: the steps of its pixels, its blur and its colour.
type looking struct {
	pitchMM, blurMM float64
	colour          color.RGBA
}

var cloth, primer = color.RGBA{0x2a, 0x33, 0x3b, 255}, color.RGBA{0x9a, 0x9d, 0x9c, 255}

// shot is how a photograph of the demo is taken; closeups are under a loupe of 10.
type shot struct {
	stage   string
	closeup bool
}

// photographed takes pictures of some prints of either machine: of lanterns raw and primed in
// hand, and raw under a loupe, where an edge is measured; of coupons, and of the milled one,
// raw in hand; those of one stage at a time.
func (d *scene) photographed(runs []string, milled, stage string) error {
	chance := rand.New(rand.NewPCG(37, uint64(len(stage))))
	looks := map[string]looking{dunnock: {pitchMM: 0.035, blurMM: 0.014}, wheatear: {pitchMM: 0.0494, blurMM: 0.03}}
	step, err := coupon.Make(coupon.Params{Number: 1, PostsMM: pinSizes, SlotsMM: gapSizes, Calipers: true, Staircase: true, Ramp: true, Dome: true})
	if err != nil {
		return err
	}
	taken := map[string]int{}
	for _, id := range runs {
		sheet, err := d.work.Printing.RunSheet(d.ctx, id)
		if err != nil {
			return err
		}
		look := looks[sheet.Machine.Name]
		look.blurMM *= 1 + 0.1*chance.NormFloat64()
		look.colour = tint(sheet.Resin.Colour)
		for _, of := range []struct {
			piece string
			shape []mesh.Triangle
			most  int
			shots []shot
		}{{"Cage lantern", lantern(), 3, []shot{{"raw", false}, {"raw", true}, {"primed", false}}}, {"Step coupon", step.Triangles, 2, []shot{{"raw", false}}}} {
			specimen, there := firstWhole(sheet.Specimens, d.pieces[of.piece].Piece.ID)
			if counted := sheet.Machine.Name + of.piece; there && taken[counted] < of.most {
				taken[counted]++
				shots := slices.DeleteFunc(of.shots, func(s shot) bool { return s.stage != stage })
				if err := d.shoot(id, specimen.ID, of.shape, look, shots, chance); err != nil {
					return err
				}
			}
		}
	}
	if stage != "raw" {
		return nil
	}
	if err := d.brokenPhotographed(runs, looks[wheatear], chance); err != nil {
		return err
	}
	made, err := d.work.Inspect.Reference(d.ctx, milled)
	if err != nil {
		return err
	}
	brass := looking{pitchMM: 0.01, blurMM: 0.005, colour: color.RGBA{0xb5, 0x9a, 0x5a, 255}}
	return d.shoot(milled, made.Specimens[0].ID, step.Triangles, brass, []shot{{"raw", false}}, chance)
}

// brokenPhotographed takes a picture of the first lantern that broke off while it printed, and
// says which defect of it is shown.
func (d *scene) brokenPhotographed(runs []string, look looking, chance *rand.Rand) error {
	for _, id := range runs {
		sheet, err := d.work.Printing.RunSheet(d.ctx, id)
		if err != nil {
			return err
		}
		for _, s := range sheet.Specimens {
			if s.PieceID != d.pieces["Cage lantern"].Piece.ID || s.Outcome != "lost" || len(s.Counting()) == 0 {
				continue
			}
			const brokenMM = 14 // where it ends on the picture
			shape := slices.DeleteFunc(lantern(), func(t mesh.Triangle) bool { return max(t[0][2], t[1][2], t[2][2]) > brokenMM })
			look.colour = tint(sheet.Resin.Colour)
			d.clock = d.clock.Add(2 * time.Minute)
			picture, pxPerMM := portrait(shape, look, false, chance)
			kept, err := d.keepPhotograph(photographs.Taken{OfID: id, SpecimenID: s.ID, DefectID: s.Counting()[0].ID, Station: "in_hand", Stage: "raw", Light: "a daylight lamp from the left", FileName: "broken.jpg"}, picture)
			if err != nil {
				return err
			}
			return d.measured(kept, picture, pxPerMM, false)
		}
	}
	return nil
}

// shoot keeps photographs of one copy.
func (d *scene) shoot(of, specimen string, shape []mesh.Triangle, look looking, shots []shot, chance *rand.Rand) error {
	for _, s := range shots {
		seen := look
		if s.stage == "primed" {
			seen.colour, seen.blurMM = primer, look.blurMM+0.02
		}
		d.clock = d.clock.Add(2 * time.Minute)
		picture, pxPerMM := portrait(shape, seen, s.closeup, chance)
		in := photographs.Taken{OfID: of, SpecimenID: specimen, Station: "in_hand", Stage: s.stage, Light: "a daylight lamp from the left", FileName: s.stage + ".jpg"}
		if s.closeup {
			in.Station, in.Magnification = "loupe", quantity.Ptr(10.0)
		}
		kept, err := d.keepPhotograph(in, picture)
		if err != nil {
			return err
		}
		if err := d.measured(kept, picture, pxPerMM, s.closeup); err != nil {
			return err
		}
	}
	return nil
}

// firstWhole is the first copy of a piece that still has its detail.
func firstWhole(all []bench.Specimen, pieceID string) (bench.Specimen, bool) {
	for _, s := range all {
		if s.PieceID == pieceID && s.Outcome == "whole" && !s.SetAside() {
			return s, true
		}
	}
	return bench.Specimen{}, false
}

// tint reads a resin's colour, "#rrggbb".
func tint(hex string) color.RGBA {
	v := [3]uint8{0x90, 0x90, 0x90}
	for i := range v {
		if len(hex) == 7 {
			v[i] = nibble(hex[1+2*i])<<4 | nibble(hex[2+2*i])
		}
	}
	return color.RGBA{v[0], v[1], v[2], 255}
}

func nibble(c byte) uint8 {
	if c >= 'a' {
		return c - 'a' + 10
	}
	return c - '0'
}

func (d *scene) keepPhotograph(in photographs.Taken, picture *image.RGBA) (bench.Pictured, error) {
	var file bytes.Buffer
	if err := jpeg.Encode(&file, picture, &jpeg.Options{Quality: 88}); err != nil {
		return bench.Pictured{}, err
	}
	in.FileBytes = int64(file.Len())
	in.Read = func() ([]byte, error) { return file.Bytes(), nil }
	return d.work.Photographs.Keep(d.ctx, in, nil)
}

// portrait draws a photograph and says how many pixels of it a millimetre spans.
func portrait(shape []mesh.Triangle, p looking, near bool, chance *rand.Rand) (*image.RGBA, float64) {
	times, x, y := 1.0, 0.5, 0.5
	if near {
		times, x, y = closeupTimes, 0.5, 0.9
	}
	const small = 32 // its pixels a millimetre tell those of any size
	_, whole := mesh.Closeup(shape, small, times, x, y)
	whole *= photoPX / small
	steps := max(40, int(photoPX/whole/p.pitchMM)) // as many pixels of the printer as it spans
	drawn, _ := mesh.Closeup(shape, steps, times, x, y)
	out := image.NewRGBA(image.Rect(0, 0, photoPX, photoPX))
	for py := range photoPX {
		for px := range photoPX {
			out.SetRGBA(px, py, painted(drawn.RGBAAt(px*steps/photoPX, py*steps/photoPX), p.colour))
		}
	}
	soften(out, p.blurMM*whole)
	rule(out, whole, near)
	for i := range out.Pix {
		if i%4 != 3 {
			out.Pix[i] = uint8(min(255, max(0, float64(out.Pix[i])+grain*chance.NormFloat64())))
		}
	}
	return out, whole
}

// painted gives a shaded pixel of the mesh the colour of its resin; where there is none, the
// cloth shows.
func painted(shade, colour color.RGBA) color.RGBA {
	if shade.A == 0 {
		return cloth
	}
	lit := float64(shade.R) / 190
	mix := func(v uint8) uint8 { return uint8(min(255, (40+0.84*float64(v))*lit)) }
	return color.RGBA{mix(colour.R), mix(colour.G), mix(colour.B), 255}
}

// soften blurs a picture by about a normal of so many pixels: three running means.
func soften(in *image.RGBA, sigma float64) {
	reach := int(math.Round(sigma))
	if reach < 1 {
		return
	}
	line, out := make([]float64, photoPX), make([]float64, photoPX)
	for range 3 {
		for channel := range 3 {
			for l := range photoPX {
				for _, along := range []struct{ from, step int }{{in.PixOffset(0, l), 4}, {in.PixOffset(l, 0), in.Stride}} {
					at := along.from + channel
					for i := range line {
						line[i] = float64(in.Pix[at+i*along.step])
					}
					mean(line, out, reach)
					for i, v := range out {
						in.Pix[at+i*along.step] = uint8(v + 0.5)
					}
				}
			}
		}
	}
}

func mean(in, out []float64, reach int) {
	sum, from, to := 0.0, 0, 0
	for i := range in {
		for ; to < min(len(in), i+reach+1); to++ {
			sum += in[to]
		}
		for ; from < i-reach; from++ {
			sum -= in[from]
		}
		out[i] = sum / float64(to-from)
	}
}

// rule lays a rule with a mark a millimetre along the upper border, a mark of a tenth where it
// is near.
func rule(out *image.RGBA, pxPerMM float64, near bool) {
	draw.Draw(out, image.Rect(0, 0, photoPX, 60), image.NewUniform(color.RGBA{0xd8, 0xd8, 0xd2, 255}), image.Point{}, draw.Src)
	mark := 1.0
	if near {
		mark = 0.1
	}
	for i := 0; ; i++ {
		x := int(math.Round(20 + float64(i)*mark*pxPerMM))
		if x >= photoPX-4 {
			return
		}
		length := 22
		if i%5 == 0 {
			length = 34
		}
		if i%10 == 0 {
			length = 52
		}
		draw.Draw(out, image.Rect(x-1, 60-length, x+2, 60), image.NewUniform(color.RGBA{0x18, 0x18, 0x18, 255}), image.Point{}, draw.Src)
	}
}

// measured clicks a known length on the rule, and near by crosses an edge.
func (d *scene) measured(p bench.Pictured, picture *image.RGBA, pxPerMM float64, near bool) error {
	known := ruleMM
	if near {
		known = 2
	}
	m := bench.PhotoMeasure{Kind: "scale", FromXPX: 20.5, FromYPX: 40, ToXPX: 20.5 + known*pxPerMM, ToYPX: 40, KnownMM: &known, KnownUMM: quantity.Ptr(0.01)}
	if _, err := d.work.Photographs.Measure(d.ctx, p.ID, m); err != nil || !near {
		return err
	}
	line, there := plainestEdge(photo.GreyOf(picture))
	if !there {
		return nil
	}
	_, err := d.work.Photographs.Measure(d.ctx, p.ID, bench.PhotoMeasure{Kind: "edge", FromXPX: line.FromX, FromYPX: line.FromY, ToXPX: line.ToX, ToYPX: line.ToY})
	return err
}

// plainestEdge looks for the upright line across the lower part of a picture that crosses an
// edge with the least spread.
func plainestEdge(g photo.Grey) (best photo.Line, there bool) {
	least := math.Inf(1)
	const half = 44
	for x := 160.0; x < photoPX-160; x += 160 {
		for y := 160.0; y < photoPX-120; y += 40 {
			line := photo.Line{FromX: x, FromY: y - half, ToX: x, ToY: y + half}
			if edge, err := photo.EdgeAcross(g, line); err == nil && edge.UPX < least && edge.N > 15 {
				least, best, there = edge.UPX, line, true
			}
		}
	}
	return best, there
}
