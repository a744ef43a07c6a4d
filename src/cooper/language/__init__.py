"""What is shown in another language and with another decimal mark: the core speaks English, and where a text reaches a person it is put into theirs."""
