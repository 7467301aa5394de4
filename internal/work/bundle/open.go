package bundle

import (
	"archive/zip"
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/publish"
)

// Bounds of what is taken in: a bundle that unpacks to more is refused before it is read.
const (
	mostBytes = 1 << 30
	mostFiles = 2000
)

// Opened is a bundle that is open: whose it is, whether its files are as they were packed, and which of its figures come out
// otherwise when they are computed anew from its record.
type Opened struct {
	ID       string `json:"id"`
	ReviewID string `json:"review_id"`
	Code     string `json:"code"`
	Question string `json:"question"`
	MadeMS   int64  `json:"made_ms"`
	// Damaged are files that are not what the bundle says they are, or that are missing.
	Damaged []string `json:"damaged"`
	Files   int64    `json:"files"`
	Figures int64    `json:"figures"`
	// Differ are the figures that come out otherwise; SameText says that the whole text comes out as it was packed.
	Differ   []edition.Change `json:"differ"`
	SameText bool             `json:"same_text"`
	// Address is where the whole of it can be looked at, empty where nothing serves it.
	Address string `json:"address"`
	dir     string
	close   func() error
}

// shelf holds the bundles that are open.
type shelf struct {
	sync.Mutex
	open []Opened
}

// Serving lets a record be looked at and not changed, and says where; what it gives back ends that.
type Serving func(s *store.Store, at time.Time) (address string, end func() error, err error)

// List is the bundles that are open, the last first.
func (w *Tasks) List(context.Context) ([]Opened, error) {
	w.shelf.Lock()
	defer w.shelf.Unlock()
	out := slices.Clone(w.shelf.open)
	slices.Reverse(out)
	if out == nil {
		out = []Opened{}
	}
	return out, nil
}

// Open reads a bundle into a folder of its own, computes its review anew, and has it served to be looked at. The record that is
// worked on is not touched.
func (w *Tasks) Open(ctx context.Context, data []byte, serving Serving) (out Opened, err error) {
	if w.ReadOnly() {
		return out, fmt.Errorf("open a bundle: %w", bench.ErrReadOnly)
	}
	files, m, err := unpacked(data)
	if err != nil {
		return out, err
	}
	out = Opened{ID: hashOf(data)[:16], ReviewID: m.ReviewID, Code: m.Code, Question: m.Question, MadeMS: m.MadeMS, Damaged: []string{}, Files: int64(len(m.Files)), Figures: int64(len(m.Figures)), Differ: []edition.Change{}}
	for _, f := range m.Files {
		if had, there := files[f.Name]; !there || hashOf(had) != f.SHA256 {
			out.Damaged = append(out.Damaged, f.Name)
		}
	}
	if err := w.Close(ctx, out.ID); err != nil && !errors.Is(err, bench.ErrNotFound) {
		return out, err
	}
	out.dir = filepath.Join(w.Store.TempDir(), "bundle-"+out.ID) // the next start clears what an end without warning leaves
	defer func() {
		if err != nil {
			err = errors.Join(err, os.RemoveAll(out.dir))
		}
	}()
	if err := w.anew(ctx, files, m, &out); err != nil {
		return out, err
	}
	if serving != nil {
		s, err := store.Look(ctx, out.dir)
		if err != nil {
			return out, err
		}
		address, end, err := serving(s, time.UnixMilli(m.MadeMS))
		if err != nil {
			return out, errors.Join(err, s.Close())
		}
		out.Address, out.close = address, func() error { return errors.Join(end(), s.Close()) }
	}
	w.shelf.Lock()
	defer w.shelf.Unlock()
	w.shelf.open = append(w.shelf.open, out)
	return out, nil
}

// anew fills a record of its own from a bundle and computes the review in it.
func (w *Tasks) anew(ctx context.Context, files map[string][]byte, m Manifest, out *Opened) (err error) {
	if err := errors.Join(os.RemoveAll(out.dir), os.MkdirAll(out.dir, 0o700)); err != nil {
		return fmt.Errorf("make room for the bundle: %w", err)
	}
	s, err := store.Open(ctx, out.dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	publishing, recording := w.another(s, time.UnixMilli(m.MadeMS))
	if _, err := recording.Import(ctx, bytes.NewReader(files[recordName])); err != nil {
		return fmt.Errorf("read the record in the bundle: %w", err)
	}
	going, err := publishing.Forms(ctx, m.ReviewID)
	if err != nil {
		return fmt.Errorf("compute the review in the bundle anew: %w", err)
	}
	out.Differ = edition.Changes(m.Figures, going.Figures)
	at := slices.IndexFunc(going.Files, func(f publish.File) bool { return f.Name == textName })
	out.SameText = at >= 0 && bytes.Equal(going.Files[at].Data, files[textName])
	return nil
}

// Close ends looking at a bundle and removes its files.
func (w *Tasks) Close(_ context.Context, id string) error {
	w.shelf.Lock()
	defer w.shelf.Unlock()
	at := slices.IndexFunc(w.shelf.open, func(o Opened) bool { return o.ID == id })
	if at < 0 {
		return fmt.Errorf("bundle %s: %w", id, bench.ErrNotFound)
	}
	o := w.shelf.open[at]
	w.shelf.open = slices.Delete(w.shelf.open, at, at+1)
	var err error
	if o.close != nil {
		err = o.close()
	}
	return errors.Join(err, os.RemoveAll(o.dir))
}

// CloseAll ends looking at every bundle.
func (w *Tasks) CloseAll(ctx context.Context) error {
	all, err := w.List(ctx)
	errs := []error{err}
	for _, o := range all {
		errs = append(errs, w.Close(ctx, o.ID))
	}
	return errors.Join(errs...)
}

// unpacked reads the files of a bundle and its manifest. Names are looked up and never written to disk.
func unpacked(data []byte) (map[string][]byte, Manifest, error) {
	var m Manifest
	refuse := func(format string, args ...any) (map[string][]byte, Manifest, error) {
		return nil, m, quantity.Errorf("bundle", format, args...)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return refuse("is no zip file (%v); choose the file that was exported as a bundle", err)
	}
	if len(z.File) > mostFiles {
		return refuse("holds %d files, more than the %d that one takes", len(z.File), mostFiles)
	}
	files, left := map[string][]byte{}, int64(mostBytes)
	for _, f := range z.File {
		read, err := read(f, left)
		if err != nil {
			return refuse("cannot be read at %.80q: %v", f.Name, err)
		}
		left -= int64(len(read))
		files[f.Name] = read
	}
	if err := json.Unmarshal(files[manifestName], &m); err != nil {
		return refuse("has no manifest that can be read (%v); choose the file that was exported as a bundle", err)
	}
	if m.Format != Format {
		return refuse("is of the format %.40q; this program reads %s", m.Format, Format)
	}
	if files[recordName] == nil {
		return refuse("lacks %s, so nothing can be computed from it", recordName)
	}
	return files, m, nil
}

func read(f *zip.File, left int64) ([]byte, error) {
	from, err := f.Open()
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(io.LimitReader(from, left+1))
	if err == nil && int64(len(data)) > left {
		err = fmt.Errorf("it unpacks to more than %d MB", mostBytes>>20)
	}
	return data, cmp.Or(err, from.Close())
}
