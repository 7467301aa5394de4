package publish

import (
	"fmt"
	"strings"

	"ojime/internal/work/compare"
)

// pictureLine says which photographs show the same in the same way, side by side.
func pictureLine(p compare.Pictures) string {
	what := p.Piece
	if p.Feature != "" {
		what += ", " + p.Feature
	}
	sides := []string{}
	for i, shots := range p.Sides {
		codes := []string{}
		for _, s := range shots {
			codes = append(codes, s.Code+" of "+s.Specimen)
		}
		if len(codes) > 0 {
			sides = append(sides, fmt.Sprintf("%c: %s", 'A'+i, strings.Join(codes, ", ")))
		}
	}
	return fmt.Sprintf("%s, %s, %s. %s.", what, p.Station, p.Stage, strings.Join(sides, "; "))
}
