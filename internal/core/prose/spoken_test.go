package prose

import (
	"strings"
	"testing"
)

func TestATextIsToldAtTheUsualPace(t *testing.T) {
	if got := SpokenS(strings.Repeat("word ", 100), " and \n fifty", strings.Repeat(" more", 48)); got != 60 {
		t.Errorf("150 words take %v s", got)
	}
	if SpokenS() != 0 {
		t.Error("nothing takes time")
	}
}
