package door

import (
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"io"
	"strings"

	"golang.org/x/crypto/argon2"
)

// Argon2id (RFC 9106) at its second recommended choice: 64 MiB, three passes.
const (
	memoryKiB = 64 << 10
	passes    = 3
	lanes     = 4
	saltBytes = 16
	keyBytes  = 32
)

// hash is a passphrase as it is kept: the function, its parameters, salt and key.
func (d *Door) hash(text string) (string, error) {
	salt := make([]byte, saltBytes)
	if _, err := io.ReadFull(d.random, salt); err != nil {
		return "", fmt.Errorf("draw a salt: %w", err)
	}
	d.hashing.Lock()
	defer d.hashing.Unlock()
	key := argon2.IDKey([]byte(text), salt, passes, d.memory, lanes, keyBytes)
	encoded := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, d.memory, passes, lanes, encoded(salt), encoded(key)), nil
}

// matches holds a passphrase against a hash, in a time that tells nothing of where they differ.
func (d *Door) matches(hash, text string) bool {
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	var version, memory, time, threads int
	if _, err := fmt.Sscanf(parts[2]+" "+parts[3], "v=%d m=%d,t=%d,p=%d", &version, &memory, &time, &threads); err != nil || version != argon2.Version || memory > 1<<20 || time < 1 || threads < 1 || threads > 255 {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	if err != nil {
		return false
	}
	key, err := base64.RawStdEncoding.DecodeString(parts[5])
	if err != nil || len(key) == 0 {
		return false
	}
	d.hashing.Lock()
	defer d.hashing.Unlock()
	is := argon2.IDKey([]byte(text), salt, uint32(time), uint32(memory), uint8(threads), uint32(len(key)))
	return subtle.ConstantTimeCompare(is, key) == 1
}
