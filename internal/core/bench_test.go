package core_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// BenchmarkCalculators times every calculator on its first worked case, input
// decoding included; a what-if panel asks one at each key press.
func BenchmarkCalculators(b *testing.B) {
	files, err := filepath.Glob("testdata/vectors/*.json")
	if err != nil {
		b.Fatal(err)
	}
	for _, name := range files {
		raw, err := os.ReadFile(name)
		if err != nil {
			b.Fatal(err)
		}
		var file vectorFile
		if err := json.Unmarshal(raw, &file); err != nil {
			b.Fatal(err)
		}
		b.Run(strings.ReplaceAll(file.Endpoint, "/", "-"), func(b *testing.B) {
			for b.Loop() {
				if _, err := calculators[file.Endpoint](file.Cases[0].Input); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
