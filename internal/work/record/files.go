package record

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"

	"ojime/internal/store"
	"ojime/internal/work/task"
)

// checkFiles holds the files of the record against the entries that they belong to.
func (w *Tasks) checkFiles(t *store.Tx) (wrong []string, err error) {
	pieces, err := t.Pieces()
	if err != nil {
		return nil, err
	}
	used := map[string]bool{}
	for _, p := range pieces {
		used[p.MeshSHA256] = true
		wrong = append(wrong, changed(w.Store.Meshes(), p.MeshSHA256, "piece "+p.Code, "its mesh file")...)
	}
	names, err := w.Store.Meshes().Names()
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		if !used[name] {
			wrong = append(wrong, fmt.Sprintf("meshes/%s belongs to no piece; the next start of serve clears it", name))
		}
	}
	all, err := t.PictureFiles()
	if err != nil {
		return nil, err
	}
	for _, p := range all {
		if p.Erased {
			continue
		}
		files, of := w.Store.Photographs(), "photograph "+p.Code
		if files.Has(p.OriginalSHA256) { // an imported record holds copies only
			wrong = append(wrong, changed(files, p.OriginalSHA256, of, "its original")...)
		}
		wrong = append(wrong, changed(files, p.CopySHA256, of, "its copy")...)
		wrong = append(wrong, changed(files, p.SmallSHA256, of, "its small copy")...)
	}
	return wrong, nil
}

// changed says that a file is missing, or is not what its name says.
func changed(files store.Files, name, of, what string) []string {
	data, err := files.Read(name)
	if err != nil {
		return []string{fmt.Sprintf("%s: %v", of, err)}
	}
	if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != name {
		return []string{fmt.Sprintf("%s: %s has changed since it was taken in; restore it from a backup", of, what)}
	}
	return nil
}

// Tidy removes mesh files that no piece refers to, which an import that was broken
// off leaves behind. Nothing else may write meanwhile.
func (w *Tasks) Tidy(ctx context.Context) error {
	pieces, err := task.ReadList(ctx, w.Base, (*store.Tx).Pieces)
	if err != nil {
		return err
	}
	used := map[string]bool{}
	for _, p := range pieces {
		used[p.MeshSHA256] = true
	}
	files, err := w.Store.Meshes().Names()
	if err != nil {
		return err
	}
	for _, name := range files {
		if !used[name] {
			if err := w.Store.Meshes().Remove(name); err != nil {
				return err
			}
		}
	}
	return nil
}
