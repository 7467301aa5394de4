package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

func slicedFile(r db.SlicedFile) bench.SlicedFile { return bench.SlicedFile(r) }

// SaveSlicedFile appends what was read of a sliced print, or takes it back.
func (t *Tx) SaveSlicedFile(f bench.SlicedFile) error {
	return saved("sliced file", t.q.SaveSlicedFile(t.ctx, db.SaveSlicedFileParams(f)))
}

// SlicedFile is one of them.
func (t *Tx) SlicedFile(id string) (bench.SlicedFile, error) {
	row, err := t.q.SlicedFile(t.ctx, id)
	return slicedFile(row), read("sliced file", id, err)
}

// SlicedFiles lists all in their order, also those taken back.
func (t *Tx) SlicedFiles() ([]bench.SlicedFile, error) {
	rows, err := t.q.SlicedFiles(t.ctx)
	return list("sliced files", rows, err, slicedFile)
}

// SlicedOwners are the ids of the prints and settings that have sliced files.
func (t *Tx) SlicedOwners() (map[string]bool, error) {
	ids, err := t.q.SlicedOwners(t.ctx)
	out := make(map[string]bool, len(ids))
	for _, id := range ids {
		out[id] = true
	}
	return out, read("sliced files", "by what they are of", err)
}

// SlicedFilesOfRun lists those of a print.
func (t *Tx) SlicedFilesOfRun(id string) ([]bench.SlicedFile, error) {
	rows, err := t.q.SlicedFilesOfRun(t.ctx, &id)
	return list("sliced files of run", rows, err, slicedFile)
}

// SlicedFilesOfProfile lists those of settings.
func (t *Tx) SlicedFilesOfProfile(id string) ([]bench.SlicedFile, error) {
	rows, err := t.q.SlicedFilesOfProfile(t.ctx, &id)
	return list("sliced files of settings", rows, err, slicedFile)
}
