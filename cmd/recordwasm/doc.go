//go:build !(js && wasm)

// Command recordwasm is built for js/wasm only; see main.go.
package main

func main() {}
