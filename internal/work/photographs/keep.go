package photographs

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Taken is a photograph to be kept: of what, OfID being a print or a reference and
// SpecimenID one of its copies; how it was taken; and its file, whose bytes are read when
// their turn has come.
type Taken struct {
	OfID, SpecimenID, FeatureID, DefectID string
	Station, Stage, Light, Note           string
	Magnification                         *float64
	FileName                              string
	FileBytes                             int64
	Read                                  func() ([]byte, error)
}

// Keep keeps a photograph as it was received, with copies that are turned upright and carry
// no tags. One that is on record already, of the same thing taken in the same way, is
// answered with what is there, so that sending it again after a lost connection is safe.
func (w *Tasks) Keep(ctx context.Context, in Taken, report task.Report) (bench.Pictured, error) {
	if in.FileBytes > photo.MostBytes {
		return bench.Pictured{}, quantity.Errorf("file", "has %d MiB; photographs up to %d MiB are read", in.FileBytes>>20, photo.MostBytes>>20)
	}
	p := bench.Photograph{Station: in.Station, Magnification: in.Magnification, Stage: in.Stage, Light: in.Light, Note: in.Note, FileName: in.FileName}
	if err := p.View().Check(); err != nil {
		return bench.Pictured{}, err
	}
	if err := w.Store.Read(ctx, func(t *store.Tx) error { return shows(t, &p, in) }); err != nil {
		return bench.Pictured{}, err
	}
	w.saving.RLock()
	defer w.saving.RUnlock()
	if _, err := task.Heavily(ctx, w.Base, report, func() (struct{}, error) {
		if report != nil {
			report("making copies without tags", 0)
		}
		return struct{}{}, w.develop(&p, in.Read)
	}); err != nil {
		return bench.Pictured{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Pictured, error) { return w.enter(t, p) })
}

// shows says what is on a photograph, and refuses what is not on record.
func shows(t *store.Tx, p *bench.Photograph, in Taken) error {
	sheets, err := printing.NewReader(t).Sheets(in.OfID)
	if err != nil {
		return err
	}
	sheet := sheets[0]
	specimen, there := task.ByID(sheet.Specimens, func(s bench.Specimen) string { return s.ID })[in.SpecimenID]
	if !there {
		return quantity.Errorf("specimen_id", "is no specimen of %s", sheet.Run.Code)
	}
	if sheet.Reference != nil {
		p.ReferenceID, p.Copy = &sheet.Reference.ID, &specimen.Copy
	} else {
		p.SpecimenID = &specimen.ID
		if why := sheet.GoneBy(specimen.ID, p.Stage); why != "" {
			return quantity.Errorf("stage", "%s; choose the stage that it is in", why)
		}
	}
	if in.DefectID != "" {
		if !slices.ContainsFunc(specimen.Counting(), func(d bench.Defect) bool { return d.ID == in.DefectID }) {
			return quantity.Errorf("defect_id", "is no defect of %s that stands; choose one of its own, or none", specimen.Code)
		}
		p.DefectID = &in.DefectID
	}
	if in.FeatureID == "" {
		return nil
	}
	feature, there := task.ByID(sheet.Features, func(f bench.Feature) string { return f.ID })[in.FeatureID]
	if !there || feature.PieceID != specimen.PieceID {
		return quantity.Errorf("feature_id", "is no feature of what %s is a copy of", specimen.Code)
	}
	p.FeatureID = &feature.ID
	return nil
}

// develop reads the file, makes its copies and puts all of them on disk.
func (w *Tasks) develop(p *bench.Photograph, read func() ([]byte, error)) error {
	data, err := read()
	if err != nil {
		return err
	}
	kind, picture, err := decode(data)
	if err != nil {
		return err
	}
	orientation := photo.Orientation(data)
	made, err := copiesOf(picture, orientation)
	if err != nil {
		return err
	}
	size := picture.Bounds().Size()
	if photo.OnItsSide(orientation) {
		size.X, size.Y = size.Y, size.X
	}
	p.Kind, p.FileBytes, p.Blur = kind, int64(len(data)), made.blur
	p.WidthPX, p.HeightPX, p.CopyWidthPX, p.CopyHeightPX = int64(size.X), int64(size.Y), int64(made.size.X), int64(made.size.Y)
	for _, f := range []struct {
		name *string
		data []byte
	}{{&p.OriginalSHA256, data}, {&p.CopySHA256, made.large}, {&p.SmallSHA256, made.small}} {
		sum := sha256.Sum256(f.data)
		*f.name = hex.EncodeToString(sum[:])
		if err := w.Store.Photographs().Save(*f.name, f.data); err != nil {
			return err
		}
	}
	return nil
}

// enter puts a photograph on record once.
func (w *Tasks) enter(t *store.Tx, p bench.Photograph) (bench.Pictured, error) {
	same, err := t.PhotographsOfFile(p.OriginalSHA256)
	if err != nil {
		return bench.Pictured{}, err
	}
	for _, old := range same {
		if old.TakenBackMS == nil && sameShot(old, p) {
			return pictured(t, old)
		}
	}
	if p.ID, err = w.NewID(); err != nil {
		return bench.Pictured{}, err
	}
	number, err := t.NextNumber("photograph")
	if err != nil {
		return bench.Pictured{}, err
	}
	p.Code, p.CreatedMS = bench.Code("photograph", number), w.NowMS()
	if err := p.Check(); err != nil {
		return bench.Pictured{}, err
	}
	if err := t.SavePhotograph(p); err != nil {
		return bench.Pictured{}, err
	}
	return pictured(t, p)
}

// sameShot reports that two photographs are of the same and taken in the same way.
func sameShot(a, b bench.Photograph) bool {
	return a.Specimen() == b.Specimen() && quantity.Or(a.FeatureID, "") == quantity.Or(b.FeatureID, "") && quantity.Or(a.DefectID, "") == quantity.Or(b.DefectID, "") &&
		a.Station == b.Station && quantity.Or(a.Magnification, 0) == quantity.Or(b.Magnification, 0) && a.Stage == b.Stage && a.Light == b.Light
}

func pictured(t *store.Tx, p bench.Photograph) (bench.Pictured, error) {
	measures, err := t.MeasuresOf([]string{p.ID})
	if err != nil {
		return bench.Pictured{}, err
	}
	return p.WithMeasures(measures)
}

// One is a photograph with what was measured on it.
func (w *Tasks) One(ctx context.Context, id string) (out bench.Pictured, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		p, err := t.Photograph(id)
		if err != nil {
			return err
		}
		out, err = pictured(t, p)
		return err
	})
	return out, err
}
