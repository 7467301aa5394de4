package photographs

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// TakenOfUnit is a photograph of the unit of a machine: what it shows, and its file.
type TakenOfUnit struct {
	MachineID, Shows, Note string
	FileName               string
	FileBytes              int64
	Read                   func() ([]byte, error)
}

// OfUnit lists the photographs of the unit of a machine, also those taken back.
func (w *Tasks) OfUnit(ctx context.Context, machineID string) (out []bench.UnitPhotograph, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = t.UnitPhotographsOfMachine(machineID)
		return err
	})
	return out, err
}

// KeepOfUnit keeps a photograph of a unit, with copies that are turned upright and carry no tags. The
// same picture of the same thing is kept once.
func (w *Tasks) KeepOfUnit(ctx context.Context, in TakenOfUnit, report task.Report) ([]bench.UnitPhotograph, error) {
	if in.FileBytes > photo.MostBytes {
		return nil, quantity.Errorf("file", "has %d MiB; photographs up to %d MiB are read", in.FileBytes>>20, photo.MostBytes>>20)
	}
	in.Shows = strings.TrimSpace(in.Shows)
	if in.Shows == "" {
		return nil, quantity.Errorf("shows", "is missing; say what is on the photograph")
	}
	if _, err := task.ReadOne(ctx, w.Base, in.MachineID, (*store.Tx).Machine); err != nil {
		return nil, err
	}
	w.saving.RLock()
	defer w.saving.RUnlock()
	var files bench.Photograph
	if _, err := task.Heavily(ctx, w.Base, report, func() (struct{}, error) {
		if report != nil {
			report("making copies without tags", 0)
		}
		return struct{}{}, w.develop(&files, in.Read)
	}); err != nil {
		return nil, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.UnitPhotograph, error) {
		p := bench.UnitPhotograph{MachineID: in.MachineID, Shows: in.Shows, Note: in.Note, FileName: in.FileName, Kind: files.Kind, FileBytes: files.FileBytes,
			OriginalSHA256: files.OriginalSHA256, CopySHA256: files.CopySHA256, SmallSHA256: files.SmallSHA256,
			WidthPX: files.WidthPX, HeightPX: files.HeightPX, CopyWidthPX: files.CopyWidthPX, CopyHeightPX: files.CopyHeightPX}
		return w.enterOfUnit(t, p)
	})
}

func (w *Tasks) enterOfUnit(t *store.Tx, p bench.UnitPhotograph) ([]bench.UnitPhotograph, error) {
	known, err := t.UnitPhotographsOfMachine(p.MachineID)
	if err != nil {
		return nil, err
	}
	for _, old := range known {
		if old.TakenBackMS == nil && old.OriginalSHA256 == p.OriginalSHA256 && old.Shows == p.Shows {
			return known, nil
		}
	}
	if p.ID, err = w.NewID(); err != nil {
		return nil, err
	}
	number, err := t.NextNumber("unit_photograph")
	if err != nil {
		return nil, err
	}
	p.Code, p.CreatedMS = bench.Code("unit_photograph", number), w.NowMS()
	if err := p.Check(); err != nil {
		return nil, err
	}
	if err := t.SaveUnitPhotograph(p); err != nil {
		return nil, err
	}
	return t.UnitPhotographsOfMachine(p.MachineID)
}

// FileOfUnit is a file of a photograph of a unit, with a name to save it under and its media type.
func (w *Tasks) FileOfUnit(ctx context.Context, id, size string) (name, media string, data []byte, err error) {
	p, err := task.ReadOne(ctx, w.Base, id, (*store.Tx).UnitPhotograph)
	if err != nil {
		return "", "", nil, err
	}
	return w.fileOf(p.Pictures(), p.Kind, size)
}

// TakeBackOfUnit takes a photograph of a unit back with its reason; erase removes its files too, for good.
func (w *Tasks) TakeBackOfUnit(ctx context.Context, id, why string, erase bool) ([]bench.UnitPhotograph, error) {
	if strings.TrimSpace(why) == "" {
		return nil, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	w.saving.Lock() // an upload of the same picture must not find its files gone
	defer w.saving.Unlock()
	var orphans []string
	out, err := task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.UnitPhotograph, error) {
		p, err := t.UnitPhotograph(id)
		if err != nil {
			return nil, err
		}
		if p.TakenBackMS != nil && (!erase || p.ErasedMS != nil) {
			return nil, fmt.Errorf("photograph %s was taken back already: %w", p.Code, bench.ErrConflict)
		}
		before := p
		p.TakenBackMS, p.TakenBackWhy = quantity.Ptr(quantity.Or(p.TakenBackMS, w.NowMS())), why
		what := "take a photograph of a unit back"
		if erase {
			p.ErasedMS, what = quantity.Ptr(w.NowMS()), "erase a photograph of a unit"
		}
		if err := w.Note(t, "unit_photograph", p.ID, what, why, before, p); err != nil {
			return nil, err
		}
		if err := t.SaveUnitPhotograph(p); err != nil {
			return nil, err
		}
		used, err := filesUsed(t)
		if err != nil {
			return nil, err
		}
		orphans = slices.DeleteFunc(before.Files(), func(name string) bool { return used[name] })
		return t.UnitPhotographsOfMachine(p.MachineID)
	})
	if err != nil || !erase {
		return out, err
	}
	return out, w.removeAll(orphans)
}
