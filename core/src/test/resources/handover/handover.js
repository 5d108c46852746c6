const words = "a script must not end here: </script> nor begin <!-- a comment";
