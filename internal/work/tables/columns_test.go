package tables

import (
	"strings"
	"testing"
)

func TestAColumnIsCalledByNamesOfItsOwn(t *testing.T) {
	for kind, k := range kinds() {
		seen := map[string]bool{}
		for _, names := range k.names() {
			for _, name := range names[:2] {
				if name = strings.ToLower(name); seen[name] && name != strings.ToLower(names[0]) {
					t.Errorf("two columns of %s are called %q", kind, name)
				}
				seen[name] = true
			}
		}
		if len(seen) == 0 {
			t.Errorf("%s has no columns", kind)
		}
	}
}
