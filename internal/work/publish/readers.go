package publish

import (
	"fmt"

	"ojime/internal/core/verdict"
	"ojime/internal/say"
)

// scoreWords are a score with its error and its odds.
func scoreWords(s verdict.Score) string {
	if s.Score == nil {
		return "not ranked"
	}
	return fmt.Sprintf("%s ± %s, the best by %s", say.Figures(*s.Score, 2), say.Figures(2**s.SD, 2), say.Percent(*s.PBest))
}
