package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/photographs"
	"ojime/internal/work/templates"
)

// rooms are where the machines stand: three in a heated workshop, the laser in a cellar.
func (d *scene) rooms() error {
	p := quantity.Ptr[float64]
	for _, r := range []struct {
		room     bench.Workroom
		machines []string
	}{
		{bench.Workroom{Name: "Workshop", RoomTempC: p(22), HumidityPct: p(48), HeaterOn: quantity.Ptr(true), Note: "the radiator goes off at night"}, []string{"Harrow 6", "Tern Mini", "Plover Box"}},
		{bench.Workroom{Name: "Cellar", RoomTempC: p(18), HumidityPct: p(62)}, []string{"Corvid L"}},
	} {
		all, err := d.work.Templates.SaveRoom(d.ctx, r.room)
		if err != nil {
			return err
		}
		id := all.Rooms[len(all.Rooms)-1].Room.ID
		for _, name := range r.machines {
			if _, err := d.work.Templates.Place(d.ctx, d.machines[name].Machine.ID, templates.Placing{RoomID: id, AllAlong: true}); err != nil {
				return err
			}
		}
	}
	return nil
}

// kinds are what is looked at on every piece of a kind.
func (d *scene) kinds() error {
	for _, l := range []bench.Checklist{
		{Kind: "figure", Checkpoints: bench.Checkpoints{{Name: "Brow ridge", Place: "front of the head"}, {Name: "Fingers", Place: "both hands"}, {Name: "Thinnest tip", Place: "weapon or staff"}}},
		{Kind: "terrain", Checkpoints: bench.Checkpoints{{Name: "Finial", Place: "top"}, {Name: "Long edges", Place: "seen against the light"}}},
	} {
		if _, err := d.work.Templates.SaveChecklist(d.ctx, l); err != nil {
			return err
		}
	}
	for _, of := range []struct{ piece, kind string }{{"Warden with staff", "figure"}, {"Cage lantern", "terrain"}, {"Spined wyrm", "creature"}, {"Step coupon", "test piece"}} {
		card := d.pieces[of.piece]
		kept, err := d.work.Kit.SaveKind(d.ctx, card.Piece.ID, card.Piece.Version, of.kind)
		if err != nil {
			return err
		}
		card.Piece = kept.Piece
		d.pieces[of.piece] = card
	}
	return nil
}

// unitPictured keeps two pictures of what came with the Tern: its box from above, and the corner
// that was dented.
func (d *scene) unitPictured() error {
	box := image.NewRGBA(image.Rect(0, 0, 480, 320))
	fill := func(r image.Rectangle, c color.Color) {
		draw.Draw(box, r, image.NewUniform(c), image.Point{}, draw.Src)
	}
	card, foam, steel, vat := color.RGBA{0xb9, 0x93, 0x68, 255}, color.RGBA{0x2f, 0x33, 0x36, 255}, color.RGBA{0xa7, 0xad, 0xb1, 255}, color.RGBA{0xd8, 0x7a, 0x2b, 255}
	fill(box.Bounds(), color.RGBA{0xdf, 0xe3, 0xe5, 255})
	fill(image.Rect(60, 30, 420, 290), card)
	fill(image.Rect(80, 50, 400, 270), foam)
	fill(image.Rect(100, 70, 240, 180), vat)
	fill(image.Rect(260, 70, 380, 150), steel)
	fill(image.Rect(260, 170, 330, 250), color.RGBA{0xf2, 0xf2, 0xf0, 255})
	dented := image.NewRGBA(box.Bounds())
	draw.Draw(dented, dented.Bounds(), image.NewUniform(color.RGBA{0x8b, 0x93, 0x98, 255}), image.Point{}, draw.Src)
	for y := range 320 {
		for x := range 480 {
			if dx, dy := x-300, y-140; dx*dx+dy*dy < 70*70 {
				shade := uint8(70 + (dx*dx+dy*dy)/60)
				dented.SetRGBA(x, y, color.RGBA{shade, shade, shade + 4, 255})
			}
		}
	}
	for _, shot := range []struct {
		shows, note string
		picture     *image.RGBA
	}{{"What came in the box", "the scraper's place is empty", box}, {"Damage", "a dent in the back panel, nothing behind it was touched", dented}} {
		var file bytes.Buffer
		if err := jpeg.Encode(&file, shot.picture, &jpeg.Options{Quality: 88}); err != nil {
			return err
		}
		in := photographs.TakenOfUnit{MachineID: d.machines["Tern Mini"].Machine.ID, Shows: shot.shows, Note: shot.note, FileName: "unit.jpg", FileBytes: int64(file.Len()),
			Read: func() ([]byte, error) { return file.Bytes(), nil }}
		if _, err := d.work.Photographs.KeepOfUnit(d.ctx, in, nil); err != nil {
			return err
		}
	}
	return nil
}

// template makes the settings that were found for the Harrow what its new ones begin with.
func (d *scene) template() error {
	profiles, err := d.work.Kit.Profiles(d.ctx)
	if err != nil {
		return err
	}
	for _, p := range profiles {
		if p.MachineID == d.machines["Harrow 6"].Machine.ID && p.Basis == "calibrated" {
			_, err := d.work.Templates.MakeTemplate(d.ctx, p.ID, p.Version, true)
			return err
		}
	}
	return nil
}
