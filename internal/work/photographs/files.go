package photographs

import (
	"context"
	"errors"
	"fmt"
	"image"
	"io/fs"
	"slices"

	"golang.org/x/image/draw"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Sizes in which a photograph is shown: the copy to look at, the small one for lists, and
// the file as it was received, which may carry tags and goes nowhere by itself.
const (
	Large    = "large"
	Small    = "small"
	Original = "original"
)

// File is a file of a photograph, with a name to save it under and its media type.
func (w *Tasks) File(ctx context.Context, id, size string) (name, media string, data []byte, err error) {
	p, err := task.ReadOne(ctx, w.Base, id, (*store.Tx).Photograph)
	if err != nil {
		return "", "", nil, err
	}
	return w.fileOf(p.Pictures(), p.Kind, size)
}

// fileOf is one of the files of a photograph.
func (w *Tasks) fileOf(p bench.PictureFiles, kind, size string) (name, media string, data []byte, err error) {
	if p.Erased {
		return "", "", nil, fmt.Errorf("the files of photograph %s were erased: %w", p.Code, bench.ErrNotFound)
	}
	files := w.Store.Photographs()
	if size == Original && !files.Has(p.OriginalSHA256) {
		return "", "", nil, fmt.Errorf("photograph %s came with an exported record, which holds copies only; its original is with who exported it: %w", p.Code, bench.ErrNotFound)
	}
	hash := map[string]string{Large: p.CopySHA256, Small: p.SmallSHA256, Original: p.OriginalSHA256}[size]
	name, media = p.Code+"-"+size+".jpg", "image/jpeg"
	if size == Original {
		name, media = p.Code+"."+kind, "image/"+kind
	}
	data, err = files.Read(hash)
	return name, media, data, err
}

// TakeBack takes a photograph back with its reason: it stays on record and is shown in no
// comparison. Erase removes its files from the disk too, for good.
func (w *Tasks) TakeBack(ctx context.Context, id, why string, erase bool) (bench.Photograph, error) {
	if why == "" {
		return bench.Photograph{}, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	w.saving.Lock() // an upload of the same picture must not find its files gone
	defer w.saving.Unlock()
	var orphans []string
	p, err := task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Photograph, error) {
		p, err := t.Photograph(id)
		if err != nil {
			return p, err
		}
		if p.TakenBackMS != nil && (!erase || p.ErasedMS != nil) {
			return p, fmt.Errorf("photograph %s was taken back already: %w", p.Code, bench.ErrConflict)
		}
		before := p
		p.TakenBackMS, p.TakenBackWhy = quantity.Ptr(quantity.Or(p.TakenBackMS, w.NowMS())), why
		what := "take a photograph back"
		if erase {
			p.ErasedMS, what = quantity.Ptr(w.NowMS()), "erase a photograph"
		}
		if err := w.Note(t, "photograph", p.ID, what, why, before, p); err != nil {
			return p, err
		}
		if err := t.SavePhotograph(p); err != nil {
			return p, err
		}
		used, err := filesUsed(t)
		orphans = slices.DeleteFunc(before.Files(), func(name string) bool { return used[name] })
		return p, err
	})
	if err != nil || !erase {
		return p, err
	}
	return p, w.removeAll(orphans)
}

// filesUsed are the names of the files that photographs need.
func filesUsed(t *store.Tx) (map[string]bool, error) {
	all, err := t.PictureFiles()
	used := map[string]bool{}
	for _, p := range all {
		for _, name := range p.Names() {
			used[name] = true
		}
	}
	return used, err
}

// Unreferred are picture files that no photograph needs: those of an upload that was broken
// off, and of photographs that were erased.
func (w *Tasks) Unreferred(ctx context.Context) (out []string, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		used, err := filesUsed(t)
		if err != nil {
			return err
		}
		names, err := w.Store.Photographs().Names()
		out = slices.DeleteFunc(names, func(name string) bool { return used[name] })
		return err
	})
	return out, err
}

// Tidy removes picture files that no photograph needs. Nothing else may write meanwhile.
func (w *Tasks) Tidy(ctx context.Context) error {
	names, err := w.Unreferred(ctx)
	if err != nil {
		return err
	}
	return w.removeAll(names)
}

func (w *Tasks) removeAll(names []string) error {
	for _, name := range names {
		if err := w.Store.Photographs().Remove(name); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

// bareSide is the side of the ground on which a photograph is drawn bare.
const bareSide = 1000

// Bare is a photograph drawn anew in the middle of a square ground, all of one size: neither its size nor its
// tags nor a hash tell which it is.
func (w *Tasks) Bare(ctx context.Context, id string) ([]byte, error) {
	var name string
	if err := w.Store.Read(ctx, func(t *store.Tx) error {
		p, err := t.Photograph(id)
		if err == nil && p.ErasedMS != nil {
			err = fmt.Errorf("the files of %s were erased: %w", p.Code, bench.ErrNotFound)
		}
		name = p.CopySHA256
		return err
	}); err != nil {
		return nil, err
	}
	data, err := w.Store.Photographs().Read(name)
	if err != nil {
		return nil, err
	}
	return task.Heavily(ctx, w.Base, nil, func() ([]byte, error) {
		_, picture, err := decode(data)
		if err != nil {
			return nil, err
		}
		size := picture.Bounds().Size()
		longer := max(size.X, size.Y)
		width, height := max(1, bareSide*size.X/longer), max(1, bareSide*size.Y/longer)
		ground := image.NewRGBA(image.Rect(0, 0, bareSide, bareSide))
		draw.Draw(ground, ground.Rect, image.White, image.Point{}, draw.Src)
		at := image.Pt((bareSide-width)/2, (bareSide-height)/2)
		draw.Draw(ground, image.Rectangle{Min: at, Max: at.Add(image.Pt(width, height))}, shrunk(picture, width, height), image.Point{}, draw.Src)
		return encode(ground, copyQuality)
	})
}
