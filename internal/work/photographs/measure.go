package photographs

import (
	"context"
	"fmt"
	"image"
	"math"

	"golang.org/x/image/draw"

	"ojime/internal/bench"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Measure measures on a photograph along a line in pixels of the picture as received, turned
// upright. A scale is a known length; edges and periods are read off the original, or off
// the copy where that is all there is.
func (w *Tasks) Measure(ctx context.Context, id string, m bench.PhotoMeasure) (bench.Pictured, error) {
	p, err := task.ReadOne(ctx, w.Base, id, (*store.Tx).Photograph)
	if err != nil {
		return bench.Pictured{}, err
	}
	if p.TakenBackMS != nil {
		return bench.Pictured{}, fmt.Errorf("photograph %s was taken back; measure on another: %w", p.Code, bench.ErrConflict)
	}
	if err := within(p, m); err != nil {
		return bench.Pictured{}, err
	}
	found, err := w.onPhoto(ctx, p, m)
	if err != nil {
		return bench.Pictured{}, err
	}
	m.PhotographID, m.SizePX, m.UPX, m.RipplePX, m.N, m.TakenBackMS, m.TakenBackWhy = p.ID, found.SizePX, found.UPX, found.RipplePX, found.N, nil, ""
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Pictured, error) {
		if m.ID, err = w.NewID(); err != nil {
			return bench.Pictured{}, err
		}
		m.CreatedMS = w.NowMS()
		if err := m.Check(); err != nil {
			return bench.Pictured{}, err
		}
		if err := t.SavePhotoMeasure(m); err != nil {
			return bench.Pictured{}, err
		}
		return pictured(t, p)
	})
}

// within refuses a line that leaves the picture.
func within(p bench.Photograph, m bench.PhotoMeasure) error {
	var c quantity.Checks
	for _, v := range []struct {
		field string
		at    float64
		most  int64
	}{{"from_x_px", m.FromXPX, p.WidthPX}, {"from_y_px", m.FromYPX, p.HeightPX}, {"to_x_px", m.ToXPX, p.WidthPX}, {"to_y_px", m.ToYPX, p.HeightPX}} {
		if !(v.at >= 0 && v.at <= float64(v.most)) {
			c.Fail(v.field, "is %v; the picture ends at %d", v.at, v.most)
		}
	}
	return c.Err()
}

// onPhoto measures, each kind in its way; what cannot be measured there is an error of the
// line.
func (w *Tasks) onPhoto(ctx context.Context, p bench.Photograph, m bench.PhotoMeasure) (out photo.OnPhoto, err error) {
	line := m.Line()
	switch m.Kind {
	case "edge", "period":
		out, err = task.Heavily(ctx, w.Base, nil, func() (photo.OnPhoto, error) { return w.offPixels(p, m.Kind, line) })
	default:
		out, err = photo.LengthBetween(line)
	}
	if err != nil {
		return out, quantity.Errorf("line", "%v", err)
	}
	return out, nil
}

// offPixels measures an edge or a period on the pixels around a line.
func (w *Tasks) offPixels(p bench.Photograph, kind string, line photo.Line) (photo.OnPhoto, error) {
	files, name := w.Store.Photographs(), p.OriginalSHA256
	if !files.Has(name) {
		name = p.CopySHA256
	}
	data, err := files.Read(name)
	if err != nil {
		return photo.OnPhoto{}, err
	}
	_, picture, err := decode(data)
	if err != nil {
		return photo.OnPhoto{}, err
	}
	upright := photo.Turn(shrunk(picture, picture.Bounds().Dx(), picture.Bounds().Dy()), photo.Orientation(data))
	share := float64(upright.Rect.Dx()) / float64(p.WidthPX) // below 1 on a copy
	l := photo.Line{FromX: line.FromX * share, FromY: line.FromY * share, ToX: line.ToX * share, ToY: line.ToY * share}
	grey, l := around(upright, l)
	measure := photo.EdgeAcross
	if kind == "period" {
		measure = photo.PeriodAlong
	}
	out, err := measure(grey, l)
	out.SizePX, out.UPX = out.SizePX/share, out.UPX/share
	if out.RipplePX != nil {
		*out.RipplePX /= share
	}
	return out, err
}

// around is the part of a picture that lines beside a line may touch, and the line on it.
func around(in *image.RGBA, l photo.Line) (photo.Grey, photo.Line) {
	reach := l.LengthPX()/2 + 4
	part := image.Rect(int(min(l.FromX, l.ToX)-reach), int(min(l.FromY, l.ToY)-reach), int(math.Ceil(max(l.FromX, l.ToX)+reach)), int(math.Ceil(max(l.FromY, l.ToY)+reach))).Intersect(in.Rect)
	out := image.NewRGBA(image.Rect(0, 0, part.Dx(), part.Dy()))
	draw.Draw(out, out.Rect, in, part.Min, draw.Src)
	x, y := float64(part.Min.X), float64(part.Min.Y)
	return photo.GreyOf(out), photo.Line{FromX: l.FromX - x, FromY: l.FromY - y, ToX: l.ToX - x, ToY: l.ToY - y}
}

// TakeMeasureBack takes a measure back with its reason; it stays on record, and the scale
// before counts again.
func (w *Tasks) TakeMeasureBack(ctx context.Context, id, measureID, why string) (bench.Pictured, error) {
	if why == "" {
		return bench.Pictured{}, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Pictured, error) {
		m, err := t.PhotoMeasure(measureID)
		switch {
		case err != nil:
			return bench.Pictured{}, err
		case m.PhotographID != id:
			return bench.Pictured{}, quantity.Errorf("measure_id", "is no measure of this photograph")
		case m.TakenBackMS != nil:
			return bench.Pictured{}, fmt.Errorf("the measure was taken back already: %w", bench.ErrConflict)
		}
		before := m
		m.TakenBackMS, m.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "photo_measure", m.ID, "take a measure back", why, before, m); err != nil {
			return bench.Pictured{}, err
		}
		if err := t.SavePhotoMeasure(m); err != nil {
			return bench.Pictured{}, err
		}
		p, err := t.Photograph(id)
		if err != nil {
			return bench.Pictured{}, err
		}
		return pictured(t, p)
	})
}
