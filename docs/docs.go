// Package docs carries the documents that the program shows as its help.
package docs

import _ "embed"

// Guide tells every view in the order of the work, Devices how printers and instruments send, Security who can reach what.
var (
	//go:embed guide.md
	Guide string
	//go:embed devices.md
	Devices string
	//go:embed security.md
	Security string
)
