// Package bundle packs a review with all that it was computed from, and opens such a bundle of somebody else's: to be looked at
// and computed anew, beside the record that is worked on.
package bundle

import (
	"archive/zip"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"time"

	"ojime/internal/core/edition"
	"ojime/internal/store"
	"ojime/internal/work/publish"
	"ojime/internal/work/record"
	"ojime/internal/work/task"
)

// Format names the layout of a bundle.
const Format = "ojime-bundle-1"

// Names of the files of a bundle that are read when it is opened.
const (
	manifestName = "manifest.json"
	recordName   = "record.json"
	aboutName    = "READ-ME.txt"
	textName     = "review.md"
)

// about says what a bundle is, to whoever unpacks it.
const about = `This is a review with all that it was computed from.

review.html     the review as one page: open it in a browser
review.md       the same as Markdown, with its plots and photographs beside
settings.html   the settings to repeat its prints by
script.md       cues to tell it by
tables/         its data as CSV
cards/          its findings as pictures
record.json     the record: machines, prints, readings
manifest.json   each file with its SHA-256, and each figure of the review

Ojime opens the bundle as it is, under Verdict, Open a bundle: it computes every
figure anew from record.json and says which differ from those of review.md.
`

// Manifest says what is in a bundle: each file with its hash, and each figure of the review as it read when it was made.
type Manifest struct {
	Format   string           `json:"format"`
	ReviewID string           `json:"review_id"`
	Code     string           `json:"code"`
	Question string           `json:"question"`
	MadeMS   int64            `json:"made_ms"`
	Figures  []edition.Figure `json:"figures"`
	Files    []FileOf         `json:"files"`
}

// FileOf is a file of a bundle with what it must come to.
type FileOf struct {
	Name   string `json:"name"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// Another are the tasks on another record, which a bundle is computed anew with, at the instant at which it was made.
type Another func(s *store.Store, at time.Time) (*publish.Tasks, *record.Tasks)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	publish *publish.Tasks
	record  *record.Tasks
	another Another
	shelf   *shelf
}

// New makes them.
func New(base *task.Base, publish *publish.Tasks, record *record.Tasks, another Another) *Tasks {
	return &Tasks{Base: base, publish: publish, record: record, another: another, shelf: &shelf{}}
}

// Make packs a review as a zip file.
func (w *Tasks) Make(ctx context.Context, reviewID string) ([]byte, error) {
	going, err := w.publish.Forms(ctx, reviewID)
	if err != nil {
		return nil, err
	}
	var excerpt bytes.Buffer
	if err := w.record.Excerpt(ctx, reviewID, going.RunIDs, &excerpt); err != nil {
		return nil, err
	}
	files := append([]publish.File{{Name: aboutName, Data: []byte(about)}}, going.Files...)
	files = append(files, publish.File{Name: recordName, Data: excerpt.Bytes()})
	m := Manifest{Format: Format, ReviewID: reviewID, Code: going.Code, Question: going.Question, MadeMS: going.AtMS, Figures: going.Figures, Files: []FileOf{}}
	for _, f := range files {
		m.Files = append(m.Files, FileOf{f.Name, int64(len(f.Data)), hashOf(f.Data)})
	}
	manifest, err := json.MarshalIndent(m, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("write the manifest of %s: %w", going.Code, err)
	}
	return packed(append(files, publish.File{Name: manifestName, Data: manifest}), time.UnixMilli(m.MadeMS))
}

func packed(files []publish.File, at time.Time) ([]byte, error) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range files {
		to, err := z.CreateHeader(&zip.FileHeader{Name: f.Name, Method: zip.Deflate, Modified: at})
		if err != nil {
			return nil, fmt.Errorf("pack %s: %w", f.Name, err)
		}
		if _, err := io.Copy(to, bytes.NewReader(f.Data)); err != nil {
			return nil, fmt.Errorf("pack %s: %w", f.Name, err)
		}
	}
	err := z.Close()
	return b.Bytes(), err
}

func hashOf(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}
