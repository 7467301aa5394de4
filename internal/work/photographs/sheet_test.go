package photographs

import (
	"crypto/sha256"
	"testing"
)

// Pictures whose codes fall together get one each.
func TestCodesOfABlindSheetNeverRepeat(t *testing.T) {
	taken := map[string]bool{}
	same := sha256.Sum256([]byte("one picture"))
	for range 500 { // of 3,200 codes, each drawn from the same sum
		freeCode(same, taken)
	}
	if len(taken) != 500 {
		t.Errorf("%d codes for 500 pictures", len(taken))
	}
	if first := freeCode(same, map[string]bool{}); first != blindCode(same) {
		t.Errorf("%q where %q is free", first, blindCode(same))
	}
}
