package prose

import "strings"

// wordsPerS is how fast a text is read out to others: 150 words a minute, the usual pace of speakers.
const wordsPerS = 150.0 / 60

// SpokenS is how long it takes to tell texts, in s, without what is shown meanwhile: at 150 words a minute, words being what
// stands between spaces. A rule of our own.
func SpokenS(texts ...string) float64 {
	words := 0
	for _, t := range texts {
		words += len(strings.Fields(t))
	}
	return float64(words) / wordsPerS
}
