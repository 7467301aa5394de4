// Package ui holds the built front end. It is empty until `make build` has
// written it.
package ui

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var files embed.FS

// Files is the built front end, index.html at its root.
func Files() fs.FS {
	sub, err := fs.Sub(files, "dist")
	if err != nil {
		panic("ui: " + err.Error()) // the directive above names it
	}
	return sub
}
