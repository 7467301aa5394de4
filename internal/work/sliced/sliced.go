package sliced

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stack"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// SlicedBytes is the most bytes of a sliced file: it is read layer by layer, from the disk.
const SlicedBytes = 1 << 30

// SlicedUpload is a sliced file that waits to be read.
type SlicedUpload struct {
	Name  string
	Note  string
	Bytes int64
	File  interface {
		io.ReaderAt
		io.Reader
	}
}

// SliceForRun keeps what a sliced file says beside a print.
func (w *Tasks) SliceForRun(ctx context.Context, runID string, up SlicedUpload, report task.Report) (SlicedSheet, error) {
	return w.slice(ctx, bench.SlicedFile{RunID: &runID}, up, report, func(t *store.Tx) error {
		_, err := t.Run(runID)
		return err
	})
}

// SliceForProfile keeps what a sliced file says beside settings.
func (w *Tasks) SliceForProfile(ctx context.Context, profileID string, up SlicedUpload, report task.Report) (SlicedSheet, error) {
	return w.slice(ctx, bench.SlicedFile{ProfileID: &profileID}, up, report, func(t *store.Tx) error {
		_, err := t.Profile(profileID)
		return err
	})
}

// slice reads the file in its turn, and keeps what it says.
func (w *Tasks) slice(ctx context.Context, f bench.SlicedFile, up SlicedUpload, report task.Report, there func(*store.Tx) error) (out SlicedSheet, err error) {
	if err := w.Store.Read(ctx, there); err != nil {
		return out, err
	}
	read, err := task.HeavilyFor(ctx, w.Base, report, up.Bytes, func() (stack.Stack, error) {
		hash := sha256.New()
		if _, err := io.Copy(hash, io.NewSectionReader(up.File, 0, up.Bytes)); err != nil {
			return stack.Stack{}, fmt.Errorf("read the upload: %w", err)
		}
		f.FileSHA256 = hex.EncodeToString(hash.Sum(nil))
		stop := report.Progress(ctx, "reading the layers")
		return stack.Read(up.File, up.Bytes, task.MostHeavy, func(read, of int) bool { return stop(float64(read) / float64(of)) })
	})
	if err != nil {
		return out, err
	}
	f.Name, f.Bytes, f.Note = path.Base(strings.ReplaceAll(up.Name, `\`, "/")), up.Bytes, up.Note
	f.WidthPX, f.HeightPX, f.FirstNumber = int64(read.WidthPX), int64(read.HeightPX), int64(read.First)
	f.MissingNumbers, f.OtherFiles, f.Layers = firstOf(read.Missing), firstOf(read.Others), read.Layers
	f.Pairs = pairsOf(read.Texts)
	return task.Keep(ctx, w.Base, func(t *store.Tx) (SlicedSheet, error) {
		if err := there(t); err != nil {
			return out, err
		}
		if f.ID, err = w.NewID(); err != nil {
			return out, err
		}
		f.CreatedMS = w.NowMS()
		if err := f.Check(); err != nil {
			return out, err
		}
		if err := t.SaveSlicedFile(f); err != nil {
			return out, err
		}
		return slicedSheet(t, f)
	})
}

// mostNamed is how many missing numbers and other files are kept by their names.
const mostNamed = 200

func firstOf[E any](list []E) []E { return append([]E{}, list[:min(len(list), mostNamed)]...) }

// mostPairs is how many named values of a sliced file are kept.
const mostPairs = 400

// pairsOf are the named values of texts: of JSON by the names that lead to each value, of other
// texts line by line.
func pairsOf(texts []stack.Text) []stack.Pair {
	out := []stack.Pair{}
	for _, text := range texts {
		var tree any
		decoder := json.NewDecoder(strings.NewReader(string(text.Body)))
		decoder.UseNumber()
		if strings.HasSuffix(strings.ToLower(text.Name), ".json") && decoder.Decode(&tree) == nil {
			out = append(out, flattened(nil, tree, text.Name)...)
		} else {
			out = append(out, stack.Pairs(text)...)
		}
	}
	return out[:min(len(out), mostPairs)]
}

// flattened are the values of a tree of JSON, in the order of their names.
func flattened(above []string, tree any, from string) (out []stack.Pair) {
	switch v := tree.(type) {
	case map[string]any:
		names := make([]string, 0, len(v))
		for name := range v {
			names = append(names, name)
		}
		slices.Sort(names)
		for _, name := range names {
			if len(out) < mostPairs && len(above) < 8 {
				out = append(out, flattened(append(above[:len(above):len(above)], name), v[name], from)...)
			}
		}
	case []any, nil:
	default:
		name, value := strings.Join(above, "."), fmt.Sprint(v)
		if name != "" && len(name) <= 120 && len(value) <= 400 {
			out = append(out, stack.Pair{Name: name, Value: value, From: from})
		}
	}
	return out
}

// TakeSlicedBack takes a sliced file back with the reason.
func (w *Tasks) TakeSlicedBack(ctx context.Context, id, why string) (SlicedSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (SlicedSheet, error) {
		if strings.TrimSpace(why) == "" {
			return SlicedSheet{}, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		f, err := t.SlicedFile(id)
		if err != nil {
			return SlicedSheet{}, err
		}
		if f.TakenBackMS != nil {
			return SlicedSheet{}, fmt.Errorf("sliced file %s was taken back before: %w", f.Name, bench.ErrConflict)
		}
		f.TakenBackMS, f.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveSlicedFile(f); err != nil {
			return SlicedSheet{}, err
		}
		return slicedSheet(t, f)
	})
}
