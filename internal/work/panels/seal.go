package panels

import (
	"crypto/aes"
	"crypto/cipher"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"io"

	"ojime/internal/core/quantity"
)

// hashOf is the hash of a key, which is told from the start.
func hashOf(text string) string {
	sum := sha256.Sum256([]byte(text))
	return hex.EncodeToString(sum[:])
}

// newToken is what opens a ballot: 20 characters of chance, 100 bits.
func newToken(random io.Reader) (string, error) {
	const letters = "0123456789abcdefghjkmnpqrstvwxyz"
	b := make([]byte, 20)
	if _, err := io.ReadFull(random, b); err != nil {
		return "", fmt.Errorf("draw the link of a ballot: %w", err)
	}
	for i := range b {
		b[i] = letters[b[i]&31]
	}
	return string(b), nil
}

// shut encrypts a key (AES-256 in Galois counter mode) under an opening of its own, which is told when the
// panel closes. The hash of the key goes in beside it, so that no other panel's key can be put in its place.
func shut(random io.Reader, hash, text string) (sealed, opening string, err error) {
	secret := make([]byte, 32)
	if _, err := io.ReadFull(random, secret); err != nil {
		return "", "", fmt.Errorf("draw the opening of a panel: %w", err)
	}
	box, err := boxOf(secret)
	if err != nil {
		return "", "", err
	}
	nonce := make([]byte, box.NonceSize())
	if _, err := io.ReadFull(random, nonce); err != nil {
		return "", "", fmt.Errorf("draw a nonce: %w", err)
	}
	return base64.StdEncoding.EncodeToString(box.Seal(nonce, nonce, []byte(text), []byte(hash))), hex.EncodeToString(secret), nil
}

// open is what shut encrypted, by its opening; what does not fit is an error of field opening.
func open(sealed, opening, hash string) (string, error) {
	secret, err := hex.DecodeString(opening)
	if err != nil || len(secret) != 32 {
		return "", quantity.Errorf("opening", "is no opening of a panel; take the 64 letters and digits from the panel's page in the record that it came from, once it is closed there")
	}
	data, err := base64.StdEncoding.DecodeString(sealed)
	if err != nil {
		return "", fmt.Errorf("read a sealed key: %w", err)
	}
	box, err := boxOf(secret)
	if err != nil {
		return "", err
	}
	if len(data) < box.NonceSize() {
		return "", quantity.Errorf("opening", "opens nothing: the sealed key is cut off")
	}
	text, err := box.Open(nil, data[:box.NonceSize()], data[box.NonceSize():], []byte(hash))
	if err != nil || hashOf(string(text)) != hash {
		return "", quantity.Errorf("opening", "does not open this panel; it may be that of another")
	}
	return string(text), nil
}

func boxOf(secret []byte) (cipher.AEAD, error) {
	block, err := aes.NewCipher(secret)
	if err != nil {
		return nil, fmt.Errorf("make a cipher: %w", err)
	}
	box, err := cipher.NewGCM(block)
	if err != nil {
		return nil, fmt.Errorf("make a cipher: %w", err)
	}
	return box, nil
}
