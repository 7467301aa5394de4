package door

import (
	"crypto/rand"
	"fmt"
	"math/big"
	"strings"
	"time"
)

// Code draws a code that brings one phone in as helper, once, within some minutes. Those before it hold too, up
// to a few.
func (d *Door) Code() (code string, until time.Time, err error) {
	n, err := rand.Int(d.random, new(big.Int).Exp(big.NewInt(10), big.NewInt(codeDigits), nil))
	if err != nil {
		return "", until, fmt.Errorf("draw a code: %w", err)
	}
	code, until = fmt.Sprintf("%0*d", codeDigits, n), d.now().Add(codeLasts)
	d.mu.Lock()
	defer d.mu.Unlock()
	for was, ends := range d.codes {
		if !d.now().Before(ends) {
			delete(d.codes, was)
		}
	}
	if len(d.codes) >= mostCodesAtOnce {
		clear(d.codes)
	}
	d.codes[hashed(code)] = until
	return code[:codeDigits/2] + "-" + code[codeDigits/2:], until, nil
}

// EnterByCode lets a phone in as helper by a code, which is void then. A wrong one counts as a wrong passphrase does.
func (d *Door) EnterByCode(code, name, from string) (token string, s Session, err error) {
	if d.tries.closed(from) {
		d.Log.Note(Event{What: Throttled, From: from})
		return "", s, ErrThrottled
	}
	is := hashed(strings.NewReplacer("-", "", " ", "").Replace(code))
	d.mu.Lock()
	until, known := d.codes[is]
	delete(d.codes, is)
	d.mu.Unlock()
	if !known || !d.now().Before(until) {
		d.tries.miss(from)
		d.Log.Note(Event{What: Refused, From: from, Detail: "wrong code"})
		return "", s, ErrWrong
	}
	return d.begin(Helper, name, from)
}
