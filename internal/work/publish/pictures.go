package publish

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
)

// shot is a picture in a write-up: the name by which its text calls it, its file by content, and what is to be seen.
type shot struct {
	Path, SHA256, Caption string
}

// gallery are the photographs of a review that stand, by their ids, with what is on each.
type gallery struct {
	of    map[string]bench.Pictured
	on    map[string]string
	order []string
	shown []shot
}

func galleryOf(sheets []*printing.RunSheet) gallery {
	out := gallery{of: map[string]bench.Pictured{}, on: map[string]string{}}
	for _, s := range sheets {
		copies := map[string]bench.Specimen{}
		for _, p := range s.Specimens {
			copies[p.ID] = p
		}
		for _, p := range s.Photographs {
			if p.ErasedMS != nil || p.TakenBackMS != nil {
				continue
			}
			out.of[p.ID], out.on[p.ID] = p, copies[p.Specimen()].Code
			out.order = append(out.order, p.ID)
		}
	}
	return out
}

// caption is what is always said of a photograph: what is on it, from where, in which stage and light.
func (g *gallery) caption(id string) string {
	p := g.of[id]
	return fmt.Sprintf("%s of %s, %s, %s, %s", p.Code, g.on[id], p.View().StationWords(), say.Words(p.Stage), p.Light)
}

// show puts a photograph into the write-up, small where it stands beside others; ok where there is one and room for it.
func (g *gallery) show(id, caption string, small bool) (s shot, ok bool) {
	p, there := g.of[id]
	if !there || len(g.shown) >= bench.MostPictures {
		return s, false
	}
	s = shot{Path: "photographs/" + p.Code + ".jpg", SHA256: p.CopySHA256, Caption: caption}
	if small {
		s.Path, s.SHA256 = "photographs/"+p.Code+"-small.jpg", p.SmallSHA256
	}
	g.shown = append(g.shown, s)
	return s, true
}

// shownRow is what shows the same in the same way: a picture a side, side by side.
type shownRow struct {
	compare.Pictures
	Shots []shot
}

// sideBySide are the photographs of a comparison, the first sharp one of each side; what only one side has stands in words.
func (g *gallery) sideBySide(c compare.Comparison) (out []shownRow) {
	for _, p := range c.Pictures {
		row := shownRow{Pictures: p}
		for i, shots := range p.Sides {
			if one, there := sharpest(shots); there {
				caption := fmt.Sprintf("%c: %s", 'A'+i, g.caption(one.ID))
				if s, ok := g.show(one.ID, caption, true); ok {
					row.Shots = append(row.Shots, s)
				}
			}
		}
		out = append(out, row)
	}
	return out
}

// sharpest is the first that is not blurred, or the first.
func sharpest(shots []compare.PictureShot) (compare.PictureShot, bool) {
	for _, s := range shots {
		if !s.Blurred {
			return s, true
		}
	}
	if len(shots) == 0 {
		return compare.PictureShot{}, false
	}
	return shots[0], true
}

// chosen are the pictures that the reviewer put into a part, each with the reviewer's words and what is always said.
func (g *gallery) chosen(pictures bench.BlockPictures) (out []shot) {
	for _, p := range pictures {
		caption := g.caption(p.PhotographID)
		if p.Caption != "" {
			caption = p.Caption + " (" + caption + ")"
		}
		if s, ok := g.show(p.PhotographID, caption, false); ok {
			out = append(out, s)
		}
	}
	return out
}
